/** Versions are fetched in pages of numbers, so that the same request serves neighbours. */
const PAGE = 100;

export const pageOf = (number: number): { from: number; to: number } => {
  const from = Math.floor((number - 1) / PAGE) * PAGE + 1;
  return { from, to: from + PAGE - 1 };
};

export const pageKey = (fileId: string, line: number, number: number): string => {
  const { from, to } = pageOf(number);
  return `/files/${fileId}/versions?from=${from}&to=${to}${line ? `&line=${line}` : ''}`;
};

export const railKey = (fileId: string, line: number): string => `/files/${fileId}/rail${line ? `?line=${line}` : ''}`;

/** The line that an address asks for: ?line=1 is the first branch. */
export function lineOf(get: (name: string) => string | null, lines: number): number {
  const text = get('line') ?? '';
  return /^\d{1,6}$/.test(text) && Number(text) < lines ? Number(text) : 0;
}

/** Versions that an address asks for: ?v=3 is one, ?a=3&b=5 are two; what is not there is the newest. */
export function numbersOf(
  get: (name: string) => string | null,
  { first, newest }: { first: number; newest: number },
): { a: number; b: number } {
  const number = (name: string): number | undefined => {
    const text = get(name);
    return text !== null && /^[1-9]\d{0,9}$/.test(text) && Number(text) >= first && Number(text) <= newest
      ? Number(text)
      : undefined;
  };
  const b = number('b') ?? number('v') ?? newest;
  return { a: number('a') ?? b, b };
}
