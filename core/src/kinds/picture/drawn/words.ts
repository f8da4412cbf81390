/** Words of two pages, whatever they are kept in: which lines only one of them has, and which read otherwise. */
import type { CauseDraft, ChangeDraft } from '../../../causes/draft.ts';
import { quoted } from '../../../causes/phrases.ts';
import type { Difference } from '../../../contract/comparison.ts';
import type { Box } from '../../../geometry/box.ts';
import { similarity } from '../../../text/similarity.ts';

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

export interface ComparedWords {
  readonly changes: ChangeDraft[];
  readonly causes: CauseDraft[];
}

/** Lines that only one side has are all named up to this many; of more, a few. */
const NAMED = 3;
const EXAMPLES = 2;

/** `seen`: the lines of A where they lie on B's page; `reach`: how far apart one line may stand, in its units. */
export function compareWords(
  a: readonly Line[],
  seen: readonly Line[],
  b: readonly Line[],
  page: string,
  reach: number,
): ComparedWords {
  const { pairs, gone, come } = pairLines(seen, b, reach);
  const changes: ChangeDraft[] = [];
  const causes: CauseDraft[] = [];
  const push = (change: Pick<ChangeDraft, 'kind' | 'what' | 'boxA' | 'boxB'>, { words }: Line): number => {
    const part = { key: null, kind: 'text', name: quoted(words), category: '', page };
    const sides = { ...(change.boxA ? { partA: part } : {}), ...(change.boxB ? { partB: part } : {}) };
    return changes.push({ ...change, part, ...sides, size: 0 }) - 1;
  };
  for (const [i, other] of pairs) {
    const { words: from, box } = a[i] as Line;
    const what: Difference[] = [{ aspect: 'text', from, to: other.words }];
    const change = push({ kind: 'changed', what, boxA: [...box], boxB: [...other.box] }, other);
    const saying = { code: 'line-differs', values: { from, to: other.words } } as const;
    causes.push({ kind: 'text', saying, weight: 9, changes: [change] });
  }
  const onlyIn = (side: 'A' | 'B', lines: readonly Line[]): void => {
    if (!lines.length) return;
    const kind = side === 'A' ? 'removed' : 'added';
    const own = lines.map((line) => {
      const boxes = side === 'A' ? { boxA: [...line.box], boxB: null } : { boxA: null, boxB: [...line.box] };
      return push({ kind, what: [], ...(boxes as Pick<ChangeDraft, 'boxA' | 'boxB'>) }, line);
    });
    const examples = lines.slice(0, lines.length > NAMED ? EXAMPLES : NAMED).map((l) => l.words);
    const saying = { code: 'words-only-in', values: { side, lines: lines.length, examples } } as const;
    causes.push({ kind, saying, weight: 8, changes: own });
  };
  onlyIn(
    'A',
    gone.map((i) => a[i] as Line),
  );
  onlyIn('B', come);
  return { changes, causes };
}

interface PairedLines {
  /** Index of a line of A, with the line of B that it became. */
  readonly pairs: (readonly [number, Line])[];
  /** Indices of lines that only A has. */
  readonly gone: number[];
  readonly come: Line[];
}

function pairLines(seen: readonly Line[], b: readonly Line[], reach: number): PairedLines {
  const open = new Set(left(seen, b));
  const come = new Set(left(b, seen));
  const pairs: (readonly [number, Line])[] = [];
  seen.forEach((line, i) => {
    const best = open.has(line) ? nearest(line, come, reach) : undefined;
    if (!best) return;
    pairs.push([i, best]);
    open.delete(line);
    come.delete(best);
  });
  return { pairs, gone: seen.flatMap((line, i) => (open.has(line) ? [i] : [])), come: [...come] };
}

/** The line that is most alike and not too far away. */
function nearest(line: Line, others: Iterable<Line>, reach: number): Line | undefined {
  const [best] = [...others]
    .map((other) => {
      const far = distance(line.box, other.box);
      return { other, far, score: similarity(line.words, other.words) - far / reach / 2 };
    })
    .sort((p, q) => q.score - p.score);
  return best && best.score >= ALIKE && best.far <= reach ? best.other : undefined;
}
