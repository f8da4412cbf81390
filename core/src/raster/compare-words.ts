/** Words of two pages, whatever they are kept in: which lines only one of them has, and which read otherwise. */
import type { Cause, Change, Difference } from '../contract/comparison.ts';
import type { Box } from '../geometry/box.ts';
import { plural } from '../text/plural.ts';
import { similarity } from '../text/similarity.ts';

/** A line of words, with its place on the page that is compared. */
export interface Line {
  readonly words: string;
  readonly box: Box;
}

/** Lines that are so alike, and stand so near, are one line that was changed. */
const ALIKE = 0.4;

const tokens = (words: string): string[] =>
  words.toLowerCase().match(/[\p{L}\p{N}]+(?:[.,:/×-][\p{L}\p{N}]+)*/gu) ?? [];

/** Lines may be broken in other places: a line counts as there where all its words are, as often. */
function left(lines: readonly Line[], others: readonly Line[]): Line[] {
  const stock = new Map<string, number>();
  for (const { words } of others) for (const t of tokens(words)) stock.set(t, (stock.get(t) ?? 0) + 1);
  const whole = new Map<string, number>();
  for (const { words } of others) whole.set(tokens(words).join(' '), (whole.get(tokens(words).join(' ')) ?? 0) + 1);
  // Lines that are there as they are take their words first.
  const open: Line[] = [];
  for (const line of lines) {
    const own = tokens(line.words);
    const key = own.join(' ');
    const n = whole.get(key) ?? 0;
    if (!own.length) continue;
    if (!n) {
      open.push(line);
      continue;
    }
    whole.set(key, n - 1);
    for (const t of own) stock.set(t, (stock.get(t) ?? 0) - 1);
  }
  return open.filter((line) => {
    const own = tokens(line.words);
    const has = new Map<string, number>();
    for (const t of own) has.set(t, (has.get(t) ?? 0) + 1);
    if ([...has].some(([t, n]) => (stock.get(t) ?? 0) < n)) return true;
    for (const t of own) stock.set(t, (stock.get(t) ?? 0) - 1);
    return false;
  });
}

const distance = (p: Box, q: Box): number =>
  Math.hypot((p[0] + p[2] - q[0] - q[2]) / 2, (p[1] + p[3] - q[1] - q[3]) / 2);

const short = (words: string): string => `“${words.length > 60 ? `${words.slice(0, 59)}…` : words}”`;

export interface ComparedWords {
  readonly changes: Change[];
  readonly causes: Omit<Cause, 'id'>[];
}

/** `seen`: the lines of A where they lie on B's page; `reach`: how far apart one line may stand, in its units; `first`: number of the first change. */
export function compareWords(
  a: readonly Line[],
  seen: readonly Line[],
  b: readonly Line[],
  page: string,
  reach: number,
  first: number,
): ComparedWords {
  const goneLines = new Set(left(seen, b));
  const come = new Set(left(b, seen));
  const changes: Change[] = [];
  const pairs: [number, Line][] = [];
  seen.forEach((line, i) => {
    if (!goneLines.has(line)) return;
    const best = [...come]
      .map((other) => ({
        other,
        score: similarity(line.words, other.words) - distance(line.box, other.box) / reach / 2,
      }))
      .sort((p, q) => q.score - p.score)[0];
    if (!best || best.score < ALIKE || distance(line.box, best.other.box) > reach) return;
    pairs.push([i, best.other]);
    goneLines.delete(line);
    come.delete(best.other);
  });
  const push = (
    kind: Change['kind'],
    line: Line,
    what: readonly Difference[],
    boxA: Box | null,
    boxB: Box | null,
  ): string => {
    const part = { key: null, kind: 'text', name: short(line.words), category: '', page };
    const id = `c${first + changes.length}`;
    changes.push({
      id,
      kind,
      part,
      ...(boxA ? { partA: part } : {}),
      ...(boxB ? { partB: part } : {}),
      what: [...what],
      boxA: boxA && [...boxA],
      boxB: boxB && [...boxB],
      size: 0,
    });
    return id;
  };
  const causes: Omit<Cause, 'id'>[] = [];
  for (const [i, other] of pairs) {
    const line = a[i] as Line;
    const id = push('changed', other, [{ aspect: 'text', from: line.words, to: other.words }], line.box, other.box);
    causes.push({
      kind: 'text',
      sentence: `Text ${short(line.words)} now ${short(other.words)}`,
      weight: 9,
      parts: 1,
      changes: [id],
    });
  }
  const sides = [
    ['removed', 'A', seen.flatMap((l, i) => (goneLines.has(l) ? [a[i] as Line] : []))],
    ['added', 'B', [...come]],
  ] as const;
  for (const [kind, side, lines] of sides) {
    if (!lines.length) continue;
    const ids = lines.map((line) =>
      push(kind, line, [], kind === 'removed' ? line.box : null, kind === 'added' ? line.box : null),
    );
    causes.push({
      kind,
      sentence: `Words only in ${side}: ${
        lines.length > 3
          ? `${plural(lines.length, 'line')}, ${lines
              .slice(0, 2)
              .map((l) => short(l.words))
              .join(', ')} …`
          : lines.map((l) => short(l.words)).join(', ')
      }`,
      weight: 8,
      parts: ids.length,
      changes: ids,
    });
  }
  return { changes, causes };
}
