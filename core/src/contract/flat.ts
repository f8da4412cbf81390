/** Formats that a model drawn flat can be saved in, with their types. */
export const flatTypes = { svg: 'image/svg+xml', dxf: 'image/vnd.dxf' } as const;

export type FlatFormat = keyof typeof flatTypes;

export const flatFormats = Object.keys(flatTypes) as [FlatFormat, ...FlatFormat[]];
