/** A value of an address, which may say it several times, or say nothing: the first that is one. */
export const said = (value: string | readonly string[] | undefined): string | undefined =>
  [value ?? []].flat().find((one) => one !== '');
