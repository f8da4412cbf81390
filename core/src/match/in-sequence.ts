/**
 * Pairs of what follows one another, such as lines and rows: patience on what is unique on both sides, then a minimal
 * edit script between.
 */
import { diff } from 'fast-myers-diff';

/** Above this many between two anchors the edit script would take too long. */
const WINDOW = 20_000;

/** Runs of A and of B that stand for one another and have nothing in common: from, to. */
export type Replaced = (x0: number, x1: number, y0: number, y1: number) => void;

/**
 * For each of A its place in B, −1 for none. What lies between pairs and is equal nowhere is handed to `replaced`, which
 * may call `pair` itself.
 */
export function pairInSequence(
  x: readonly string[],
  y: readonly string[],
  pair: (i: number, j: number) => void,
  replaced: Replaced,
): void {
  let from: readonly [number, number] = [0, 0];
  for (const anchor of [...anchors(x, y), [x.length, y.length] as const]) {
    between(x, y, [from[0], anchor[0], from[1], anchor[1]], pair, replaced);
    if (anchor[0] < x.length) pair(anchor[0], anchor[1]);
    from = [anchor[0] + 1, anchor[1] + 1];
  }
}

/** What is unique on both sides, in the longest run that keeps its order (patience). */
function anchors(x: readonly string[], y: readonly string[]): (readonly [number, number])[] {
  const inX = placesOnce(x);
  const inY = placesOnce(y);
  const candidates: [number, number][] = [];
  for (const [line, i] of inX) {
    const j = inY.get(line);
    if (i >= 0 && j !== undefined && j >= 0) candidates.push([i, j]);
  }
  return longestIncreasing(candidates);
}

/** Where each stands; −1 for what stands there more than once. */
export function placesOnce(lines: readonly string[]): Map<string, number> {
  const at = new Map<string, number>();
  lines.forEach((line, i) => at.set(line, at.has(line) ? -1 : i));
  return at;
}

/** Longest subsequence, by the first number, in which the second grows; O(n log n). */
export function longestIncreasing(pairs: [number, number][]): [number, number][] {
  pairs.sort((p, q) => p[0] - q[0]);
  const tails: number[] = [];
  const before = new Int32Array(pairs.length).fill(-1);
  pairs.forEach(([, j], k) => {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((pairs[tails[mid] as number] as [number, number])[1] < j) low = mid + 1;
      else high = mid;
    }
    before[k] = low > 0 ? (tails[low - 1] as number) : -1;
    tails[low] = k;
  });
  const out: [number, number][] = [];
  for (let k = tails.at(-1) ?? -1; k >= 0; k = before[k] as number) out.push(pairs[k] as [number, number]);
  return out.reverse();
}

function between(
  x: readonly string[],
  y: readonly string[],
  [x0, x1, y0, y1]: readonly [number, number, number, number],
  pair: (i: number, j: number) => void,
  replaced: Replaced,
): void {
  if (x0 >= x1 && y0 >= y1) return;
  if (x0 >= x1 || y0 >= y1 || x1 - x0 + y1 - y0 > WINDOW) {
    replaced(x0, x1, y0, y1);
    return;
  }
  const old = x.slice(x0, x1);
  const now = y.slice(y0, y1);
  let i = 0;
  let j = 0;
  const equalUpTo = (end: number): void => {
    while (i < end) pair(x0 + i++, y0 + j++);
  };
  for (const [oldFrom, oldTo, newFrom, newTo] of diff(old, now)) {
    equalUpTo(oldFrom);
    replaced(x0 + oldFrom, x0 + oldTo, y0 + newFrom, y0 + newTo);
    i = oldTo;
    j = newTo;
  }
  equalUpTo(old.length);
}

/** Pairs that keep the order of both, with the most likeness in all; what is less alike than `least` is no pair. */
export function bestInOrder(alike: readonly ArrayLike<number>[], least: number): [number, number][] {
  const [n, m] = [alike.length, alike[0]?.length ?? 0];
  const best = Array.from({ length: n + 1 }, () => new Float64Array(m + 1));
  const at = (i: number, j: number): number => best[i]?.[j] ?? 0;
  const worth = (i: number, j: number): number => {
    const value = alike[i]?.[j] ?? 0;
    return value >= least ? value : -Infinity;
  };
  for (let i = n - 1; i >= 0; i--)
    for (let j = m - 1; j >= 0; j--)
      (best[i] as Float64Array)[j] = Math.max(at(i + 1, j), at(i, j + 1), at(i + 1, j + 1) + worth(i, j));
  const pairs: [number, number][] = [];
  for (let [i, j] = [0, 0]; i < n && j < m;) {
    if (at(i, j) === at(i + 1, j + 1) + worth(i, j)) pairs.push([i++, j++]);
    else if (at(i, j) === at(i + 1, j)) i++;
    else j++;
  }
  return pairs;
}
