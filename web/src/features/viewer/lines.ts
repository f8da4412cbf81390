/** Lines of A and B side by side, from the changes of a comparison by lines. */
import type { Change } from '@ovrel/core/contract';

export interface TextLine {
  /** Index of the line in A and in B; undefined where there is none. */
  readonly a?: number;
  readonly b?: number;
  readonly change?: Change;
}

const indexOf = (key: string | null | undefined): number => Number(/^line (\d+)$/.exec(key ?? '')?.[1] ?? 0) - 1;

export function lineRows(a: readonly string[], b: readonly string[], changes: readonly Change[]): TextLine[] {
  const byA = new Map<number, Change>();
  const byB = new Map<number, Change>();
  for (const change of changes) {
    if (change.partA) byA.set(indexOf(change.partA.key), change);
    if (change.partB) byB.set(indexOf(change.partB.key), change);
  }
  const rows: TextLine[] = [];
  for (let i = 0, j = 0; i < a.length || j < b.length;) {
    const gone = byA.get(i);
    const come = byB.get(j);
    if (i < a.length && gone?.kind === 'removed') rows.push({ a: i++, change: gone });
    else if (j < b.length && come?.kind === 'added') rows.push({ b: j++, change: come });
    else if (i < a.length && j < b.length) rows.push({ a: i++, b: j++, ...(come ? { change: come } : {}) });
    else if (i < a.length) rows.push({ a: i++ });
    else rows.push({ b: j++ });
  }
  return rows;
}

/** Only the rows that matter, with two lines around them; what lies between is one gap. */
export function withGaps(
  rows: readonly TextLine[],
  matters: (row: TextLine) => boolean,
  around = 2,
): (TextLine | 'gap')[] {
  const keep = new Set<number>();
  rows.forEach((row, k) => {
    if (matters(row)) for (let n = k - around; n <= k + around; n++) keep.add(n);
  });
  const out: (TextLine | 'gap')[] = [];
  rows.forEach((row, k) => {
    if (keep.has(k)) out.push(row);
    else if (out.at(-1) !== 'gap') out.push('gap');
  });
  return out;
}
