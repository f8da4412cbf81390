/**
 * Pairs of parts that follow one another, such as lines: patience on unique lines, then a minimal edit script between
 * them.
 */
import { diff } from 'fast-myers-diff';
import type { Design } from '../../model/design.ts';
import { similarity } from '../../text/similarity.ts';
import type { Pairing } from '../../match/pairing.ts';

/** Above this many lines between two anchors the edit script would take too long; the rest is paired by place. */
const WINDOW = 20_000;

export function matchSequence(a: Design, b: Design): Pairing {
  const x = a.parts.map((p) => String(p.props['text']));
  const y = b.parts.map((p) => String(p.props['text']));
  const toB = new Int32Array(x.length).fill(-1);
  const toA = new Int32Array(y.length).fill(-1);
  const pair = (i: number, j: number): void => {
    toB[i] = j;
    toA[j] = i;
  };
  let from: readonly [number, number] = [0, 0];
  for (const anchor of [...anchors(x, y), [x.length, y.length] as const]) {
    between(x, y, from[0], anchor[0], from[1], anchor[1], pair);
    if (anchor[0] < x.length) pair(anchor[0], anchor[1]);
    from = [anchor[0] + 1, anchor[1] + 1];
  }
  return { toB, toA, keysTrusted: false, renumbered: false };
}

/** Lines that are unique on both sides, in the longest run that keeps their order (patience). */
function anchors(x: readonly string[], y: readonly string[]): (readonly [number, number])[] {
  const once = (lines: readonly string[]): Map<string, number> => {
    const at = new Map<string, number>();
    lines.forEach((line, i) => at.set(line, at.has(line) ? -1 : i));
    return at;
  };
  const inX = once(x);
  const inY = once(y);
  const candidates: [number, number][] = [];
  for (const [line, i] of inX) {
    const j = inY.get(line);
    if (i >= 0 && j !== undefined && j >= 0) candidates.push([i, j]);
  }
  return longestIncreasing(candidates);
}

/** Longest subsequence, by the first number, in which the second grows; O(n log n). */
function longestIncreasing(pairs: [number, number][]): [number, number][] {
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
  x0: number,
  x1: number,
  y0: number,
  y1: number,
  pair: (i: number, j: number) => void,
): void {
  if (x0 >= x1 || y0 >= y1) return;
  if (x1 - x0 + y1 - y0 > WINDOW) {
    for (let k = 0; k < Math.min(x1 - x0, y1 - y0); k++) pair(x0 + k, y0 + k);
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
    replaced(old, now, oldFrom, oldTo, newFrom, newTo, (p, q) => pair(x0 + p, y0 + q));
    i = oldTo;
    j = newTo;
  }
  equalUpTo(old.length);
}

/** Within a replaced run, lines that still resemble one another are the same line, changed; in order. */
function replaced(
  x: readonly string[],
  y: readonly string[],
  x0: number,
  x1: number,
  y0: number,
  y1: number,
  pair: (i: number, j: number) => void,
): void {
  let j = y0;
  for (let i = x0; i < x1 && j < y1; i++) {
    for (let k = j; k < Math.min(y1, j + 12); k++) {
      if (similarity(x[i] as string, y[k] as string) >= 0.5) {
        pair(i, k);
        j = k + 1;
        break;
      }
    }
  }
}
