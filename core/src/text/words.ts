/** Word-level differences inside a changed line. */
import { diff } from 'fast-myers-diff';

export interface Run {
  readonly text: string;
  readonly differs: boolean;
}

/** Above this many words a line counts as different as a whole. */
const LONGEST = 2000;

/** Both lines cut into runs of words that are the same and words that differ. */
export function wordRuns(a: string, b: string): { a: Run[]; b: Run[] } {
  const x = words(a);
  const y = words(b);
  if (x.length > LONGEST || y.length > LONGEST)
    return { a: [{ text: a, differs: true }], b: [{ text: b, differs: true }] };
  const outA: Run[] = [];
  const outB: Run[] = [];
  const push = (to: Run[], pieces: readonly string[], differs: boolean): void => {
    if (pieces.length) to.push({ text: pieces.join(''), differs });
  };
  let i = 0;
  let j = 0;
  for (const [fromA, toA, fromB, toB] of diff(x, y)) {
    push(outA, x.slice(i, fromA), false);
    push(outB, y.slice(j, fromB), false);
    push(outA, x.slice(fromA, toA), true);
    push(outB, y.slice(fromB, toB), true);
    i = toA;
    j = toB;
  }
  push(outA, x.slice(i), false);
  push(outB, y.slice(j), false);
  return { a: outA, b: outB };
}

/** Words and marks, each with the space after it: spaces by themselves would pair with any other space. */
const words = (line: string): string[] => line.match(/[\p{L}\p{N}]+\s*|\s+|[^\p{L}\p{N}\s]\s*/gu) ?? [];
