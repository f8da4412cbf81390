/** Rows or columns of two sheets as one list: B's in their order, and where A's stood that are gone. */

/** Its place in A and in B; undefined where it is not there. */
export interface Line {
  readonly a: number | undefined;
  readonly b: number | undefined;
}

/** `toB`: for each of A its place in B, −1 for none. */
export function mergedLines(toB: ArrayLike<number>, countB: number): Line[] {
  const toA = new Map<number, number>();
  /** By the place in B behind which they stood. */
  const gone = new Map<number, number[]>();
  let behind = -1;
  for (let i = 0; i < toB.length; i++) {
    const j = toB[i] as number;
    if (j >= 0) {
      toA.set(j, i);
      behind = j;
    } else gone.set(behind, [...(gone.get(behind) ?? []), i]);
  }
  const lines: Line[] = [];
  for (let j = -1; j < countB; j++) {
    if (j >= 0) lines.push({ a: toA.get(j), b: j });
    for (const i of gone.get(j) ?? []) lines.push({ a: i, b: undefined });
  }
  return lines;
}
