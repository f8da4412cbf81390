/** Optimal assignment on a small dense cost matrix; greedy by cost where it would be too large. */
import { munkres } from 'munkres';

/** A possible pair and what it costs; lower is better. */
export interface Candidate {
  readonly a: number;
  readonly b: number;
  readonly cost: number;
}

const DENSE = 80;

/**
 * Chooses pairs among candidates so that no part is used twice, at the least total cost within each connected group.
 */
export function assign(candidates: readonly Candidate[]): Candidate[] {
  const out: Candidate[] = [];
  for (const group of components(candidates)) {
    const [only] = group;
    if (group.length === 1 && only) {
      out.push(only);
      continue;
    }
    const rows = [...new Set(group.map((c) => c.a))];
    const columns = [...new Set(group.map((c) => c.b))];
    out.push(...(rows.length > DENSE || columns.length > DENSE ? greedy(group) : optimal(group, rows, columns)));
  }
  return out;
}

function greedy(group: readonly Candidate[]): Candidate[] {
  const usedA = new Set<number>();
  const usedB = new Set<number>();
  const out: Candidate[] = [];
  for (const c of [...group].sort((x, y) => x.cost - y.cost || x.a - y.a || x.b - y.b)) {
    if (usedA.has(c.a) || usedB.has(c.b)) continue;
    usedA.add(c.a);
    usedB.add(c.b);
    out.push(c);
  }
  return out;
}

function optimal(group: readonly Candidate[], rows: readonly number[], columns: readonly number[]): Candidate[] {
  if (rows.length === 1 || columns.length === 1) {
    const best = group.reduce((x, y) => (y.cost < x.cost ? y : x));
    return [best];
  }
  // A pair that is no candidate costs more than any mix of candidates.
  const none = group.reduce((sum, c) => sum + Math.abs(c.cost), 1) * 2;
  const rowOf = new Map(rows.map((a, i) => [a, i]));
  const columnOf = new Map(columns.map((b, j) => [b, j]));
  const matrix = rows.map(() => columns.map(() => none));
  const byPlace = new Map<number, Candidate>();
  for (const c of group) {
    const i = rowOf.get(c.a) as number;
    const j = columnOf.get(c.b) as number;
    (matrix[i] as number[])[j] = c.cost;
    byPlace.set(i * columns.length + j, c);
  }
  return munkres(matrix).flatMap(([i, j]) => byPlace.get(i * columns.length + j) ?? []);
}

/** Groups of candidates that share a part with one another, directly or through others. */
function components(candidates: readonly Candidate[]): Candidate[][] {
  const nodeA = new Map<number, number>();
  const nodeB = new Map<number, number>();
  const root: number[] = [];
  const node = (side: Map<number, number>, id: number): number => {
    let n = side.get(id);
    if (n === undefined) side.set(id, (n = root.push(root.length) - 1));
    return n;
  };
  const find = (n: number): number => {
    let top = n;
    while (root[top] !== top) top = root[top] as number;
    for (let at = n; at !== top;) {
      const up = root[at] as number;
      root[at] = top;
      at = up;
    }
    return top;
  };
  for (const c of candidates) {
    const a = find(node(nodeA, c.a));
    const b = find(node(nodeB, c.b));
    if (a !== b) root[a] = b;
  }
  const groups = new Map<number, Candidate[]>();
  for (const c of candidates) {
    const top = find(nodeA.get(c.a) as number);
    const group = groups.get(top);
    if (group) group.push(c);
    else groups.set(top, [c]);
  }
  return [...groups.values()];
}
