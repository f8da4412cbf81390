/** CSS lengths in user units (CSS Values 4 §6, at 96 px an inch). */
const perUnit: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
  q: 96 / 101.6,
  em: 16,
  rem: 16,
  ex: 8,
};

/** Absolute units and their size in millimetres. */
export const millimetresPer: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  q: 0.25,
};

export interface Length {
  readonly value: number;
  readonly unit: string;
}

export function splitLength(text: string | undefined): Length | undefined {
  const hit = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '');
  return hit ? { value: Number(hit[1]), unit: (hit[2] ?? '').toLowerCase() } : undefined;
}

/** `percentOf` is what 100 % means here; broken or missing lengths give `fallback`. */
export function lengthOf(text: string | undefined, percentOf: number, fallback = 0): number {
  const length = splitLength(text);
  if (!length) return fallback;
  if (length.unit === '%') return (length.value / 100) * percentOf;
  const factor = perUnit[length.unit];
  return factor === undefined || !Number.isFinite(length.value) ? fallback : length.value * factor;
}
