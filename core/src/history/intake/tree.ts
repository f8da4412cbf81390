/**
 * Which copy came from which. What copies have in common says which are next to one another (a spanning tree of the
 * least differences); dates, numbers and times of files say from which end it was read, each with a weight of its own, so
 * that a few that lie are outvoted.
 */
import { likeness } from '../../desk/sketch.ts';
import type { Written } from '../../model/written.ts';
import type { NameSays } from './names.ts';

export interface Copy {
  readonly path: string;
  /** When the file was changed, in milliseconds since 1970; undefined where that is not known. */
  readonly at: number | undefined;
  /** When it was written, as it says itself. */
  readonly inside?: Written;
  readonly name: NameSays;
  /** Hashes of all its pieces, ascending. */
  readonly pieces: Uint32Array;
}

export interface Placed {
  /** Index of the copy that it came from; −1 for the first. */
  readonly parent: number;
  /** How sure that is: 0 to 1; a half where nothing says in which direction. */
  readonly sure: number;
  /** Codes of what says so. */
  readonly why: readonly Evidence[];
}

export type Evidence =
  | 'content'
  | 'date in the file'
  | 'date in the name'
  | 'number in the name'
  | 'file time'
  | 'name says last'
  | 'put aside';

/** Pieces that only one of two has. */
function difference(a: Uint32Array, b: Uint32Array): number {
  let [i, j, count] = [0, 0, 0];
  while (i < a.length && j < b.length) {
    const [x, y] = [a[i] as number, b[j] as number];
    if (x === y) {
      i++;
      j++;
      continue;
    }
    count++;
    if (x < y) i++;
    else j++;
  }
  return count + a.length - i + (b.length - j);
}

/** What all have makes no difference between any, and is most of it. */
function withoutCommon(all: readonly Uint32Array[]): Uint32Array[] {
  const counts = new Map<number, number>();
  for (const pieces of all) for (const piece of pieces) counts.set(piece, (counts.get(piece) ?? 0) + 1);
  return all.map((pieces) => pieces.filter((piece) => (counts.get(piece) ?? 0) < all.length));
}

/** How much each says, where it says that one copy is older than another. */
const witnesses: readonly {
  readonly says: Evidence;
  readonly weight: number;
  readonly of: (copy: Copy) => number | undefined;
}[] = [
  // Programs set it when they save; copying, packing and sending do not change it.
  { says: 'date in the file', weight: 1.4, of: ({ inside }) => inside?.at },
  { says: 'date in the name', weight: 1.2, of: ({ name }) => name.date },
  { says: 'number in the name', weight: 1, of: ({ name }) => name.number },
  { says: 'file time', weight: 1, of: ({ at }) => at },
  { says: 'name says last', weight: 0.4, of: ({ name }) => (name.isLast ? 1 : 0) },
  { says: 'put aside', weight: 0.6, of: ({ name }) => (name.isAside ? 0 : 1) },
];

/** 1: `a` is older by this witness; −1: newer; 0: it says nothing. */
function said(value: (copy: Copy) => number | undefined, a: Copy, b: Copy): number {
  const [x, y] = [value(a), value(b)];
  if (x === undefined || y === undefined || x === y) return 0;
  return x < y ? 1 : -1;
}

const voteFor = (a: Copy, b: Copy): number =>
  witnesses.reduce((sum, { weight, of }) => sum + weight * said(of, a, b), 0);

interface Edge {
  readonly to: number;
  readonly length: number;
}

export function treeOf(copies: readonly Copy[]): Placed[] {
  const n = copies.length;
  if (n === 0) return [];
  const lengths = lengthsBetween(copies);
  const edges = spanning(lengths);
  const votes = (from: number, to: number): number => voteFor(copies[from] as Copy, copies[to] as Copy);
  const scores = scoresOfRoots(edges, votes);
  const root = scores.reduce((best, score, k) => (score > (scores[best] as number) ? k : best), 0);
  const placed = new Array<Placed>(n);
  placed[root] = {
    parent: -1,
    sure: n === 1 ? 1 : chanceOf((scores[root] as number) - nextBest(scores, root)),
    why: ['content'],
  };
  const pending = [root];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    for (const { to, length } of edges[at] as Edge[]) {
      if (placed[to]) continue;
      // Were the step the other way round, the first copy would be beyond it.
      const beyond = bestBeyond(edges, scores, at, to);
      const direction = chanceOf((scores[root] as number) - beyond);
      const [parent, own] = [copies[at] as Copy, copies[to] as Copy];
      const why = witnesses.filter(({ of }) => said(of, parent, own) > 0).map(({ says }) => says);
      placed[to] = { parent: at, sure: direction * nextness(lengths, at, to, length), why: ['content', ...why] };
      pending.push(to);
    }
  }
  return placed;
}

/** Up to so many copies each is compared with each, piece by piece. */
const FEW = 200;
/** Of more, each with so many that its sample is most like, and with so many beside it in time. */
const LIKE = 24;
const BESIDE = 8;
/** What is not near is further than anything that is; since all are beside one another in time, none is out of reach. */
const FAR = 1e9;

/** How far each copy is from each, in pieces. */
function lengthsBetween(copies: readonly Copy[]): Float64Array[] {
  const position = positionsOf(copies);
  const pieces = withoutCommon(copies.map((copy) => copy.pieces));
  const isNear = copies.length > FEW ? nearTo(estimatedLengths(pieces), position) : () => true;
  const lengths = emptyMatrix(copies.length);
  for (let i = 0; i < copies.length; i++)
    for (let j = 0; j < i; j++) {
      // Of equal differences, neighbours in time are next to one another.
      const apart = Math.abs((position[i] as number) - (position[j] as number));
      const length = isNear(i, j) ? difference(pieces[i] as Uint32Array, pieces[j] as Uint32Array) : FAR;
      setBoth(lengths, i, j, length + 0.5 * apart);
    }
  return lengths;
}

const emptyMatrix = (n: number): Float64Array[] => Array.from({ length: n }, () => new Float64Array(n));

function setBoth(matrix: readonly Float64Array[], i: number, j: number, value: number): void {
  (matrix[i] as Float64Array)[j] = value;
  (matrix[j] as Float64Array)[i] = value;
}

/** From samples: of sets that share a part J of all that they have, (a + b) (1 − J) ÷ (1 + J) is not shared. */
function estimatedLengths(pieces: readonly Uint32Array[]): Float64Array[] {
  const lengths = emptyMatrix(pieces.length);
  pieces.forEach((a, i) => {
    for (let j = 0; j < i; j++) {
      const b = pieces[j] as Uint32Array;
      // The smallest hashes, with which they begin, are the sample.
      const shared = likeness(a, b);
      setBoth(lengths, i, j, ((a.length + b.length) * (1 - shared)) / (1 + shared));
    }
  });
  return lengths;
}

/** Tells which two are worth comparing piece by piece. */
function nearTo(lengths: readonly Float64Array[], position: readonly number[]): (i: number, j: number) => boolean {
  const near = lengths.map(() => new Set<number>());
  const inTime = [...position.keys()].sort((a, b) => (position[a] as number) - (position[b] as number));
  inTime.forEach((i, k) => {
    for (const j of inTime.slice(k + 1, k + 1 + BESIDE)) near[i]?.add(j);
  });
  lengths.forEach((row, i) => {
    const nearest = [...row.keys()].filter((j) => j !== i).sort((a, b) => (row[a] as number) - (row[b] as number));
    for (const j of nearest.slice(0, LIKE)) near[i]?.add(j);
  });
  return (i, j) => (near[i]?.has(j) ?? false) || (near[j]?.has(i) ?? false);
}

/** Where each stands by what is said of it, from 0 to 1; in the middle where nothing is. */
function positionsOf(copies: readonly Copy[]): number[] {
  const sums = copies.map(() => 0);
  const weights = copies.map(() => 0);
  for (const { weight, of } of witnesses.slice(0, 4)) {
    const values = copies.map(of);
    const ranks = [...new Set(values.filter((v): v is number => v !== undefined))].sort((a, b) => a - b);
    if (ranks.length < 2) continue;
    values.forEach((value, k) => {
      if (value === undefined) return;
      sums[k] = (sums[k] as number) + (weight * ranks.indexOf(value)) / (ranks.length - 1);
      weights[k] = (weights[k] as number) + weight;
    });
  }
  return sums.map((sum, k) => ((weights[k] as number) > 0 ? sum / (weights[k] as number) : 0.5));
}

/** The shortest tree that connects all (Prim). */
function spanning(lengths: readonly Float64Array[]): Edge[][] {
  const n = lengths.length;
  const edges: Edge[][] = Array.from({ length: n }, () => []);
  const nearest = new Array<number>(n).fill(0);
  const isIn = new Array<boolean>(n).fill(false);
  isIn[0] = true;
  const lengthOf = (a: number, b: number): number => lengths[a]?.[b] ?? Infinity;
  for (let k = 1; k < n; k++) {
    let next = -1;
    for (let v = 0; v < n; v++)
      if (!isIn[v] && (next < 0 || lengthOf(v, nearest[v] as number) < lengthOf(next, nearest[next] as number)))
        next = v;
    const from = nearest[next] as number;
    const length = lengthOf(from, next);
    edges[from]?.push({ to: next, length });
    edges[next]?.push({ to: from, length });
    isIn[next] = true;
    for (let v = 0; v < n; v++)
      if (!isIn[v] && lengthOf(v, next) < lengthOf(v, nearest[v] as number)) nearest[v] = next;
  }
  return edges;
}

/** For each copy, how well all steps agree with what is said if it was the first. */
function scoresOfRoots(edges: readonly (readonly Edge[])[], votes: (from: number, to: number) => number): number[] {
  const scores = new Array<number>(edges.length).fill(0);
  const order: [node: number, parent: number][] = [];
  const pending: [number, number][] = [[0, -1]];
  for (let next = pending.pop(); next; next = pending.pop()) {
    order.push(next);
    const [node, parent] = next;
    for (const { to } of edges[node] ?? []) if (to !== parent) pending.push([to, node]);
  }
  scores[0] = order.reduce((sum, [node, parent]) => sum + (parent < 0 ? 0 : votes(parent, node)), 0);
  // Moving the first copy over one step turns that step round, and no other.
  for (const [node, parent] of order)
    if (parent >= 0) scores[node] = (scores[parent] as number) - 2 * votes(parent, node);
  return scores;
}

const nextBest = (scores: readonly number[], than: number): number =>
  scores.reduce((best, score, k) => (k === than ? best : Math.max(best, score)), -Infinity);

/** The best score of a first copy on the far side of a step. */
function bestBeyond(edges: readonly (readonly Edge[])[], scores: readonly number[], from: number, to: number): number {
  let best = -Infinity;
  const pending: [number, number][] = [[to, from]];
  for (let next = pending.pop(); next; next = pending.pop()) {
    const [node, parent] = next;
    best = Math.max(best, scores[node] as number);
    for (const edge of edges[node] ?? []) if (edge.to !== parent) pending.push([edge.to, node]);
  }
  return best;
}

/** Votes as a chance: nothing said is a half. */
const chanceOf = (margin: number): number => 1 / (1 + Math.exp(-1.4 * margin));

/** How much nearer the two are than the next that could have been the parent. */
function nextness(lengths: readonly Float64Array[], parent: number, own: number, length: number): number {
  const row = lengths[own] ?? new Float64Array();
  const next = row.reduce((least, other, k) => (k === parent || k === own ? least : Math.min(least, other)), Infinity);
  if (next === Infinity) return 1;
  return 0.85 + 0.15 * Math.min(1, Math.max(0, (next - length) / (next + 1)));
}
