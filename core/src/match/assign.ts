/** Optimal assignment on a small dense cost matrix; greedy by cost where it would be too large. */
import { munkres } from 'munkres';

/** A possible pair and what it costs; lower is better. */
export interface Candidate {
  readonly a: number;
  readonly b: number;
  readonly cost: number;
}

const DENSE = 80;

/** Chooses pairs among candidates so that no part is used twice, at the least total cost within each connected group. */
export function assign(candidates: readonly Candidate[]): Candidate[] {
  return components(candidates).flatMap((group) => {
    const rows = [...new Set(group.map((c) => c.a))], columns = [...new Set(group.map((c) => c.b))];
    return rows.length > DENSE || columns.length > DENSE ? greedy(group) : optimal(group, rows, columns);
  });
}

function greedy(group: readonly Candidate[]): Candidate[] {
  const usedA = new Set<number>(), usedB = new Set<number>(), out: Candidate[] = [];
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
  const rowOf = new Map(rows.map((a, i) => [a, i])), columnOf = new Map(columns.map((b, j) => [b, j]));
  const matrix = rows.map(() => columns.map(() => none));
  const byPlace = new Map<number, Candidate>();
  for (const c of group) {
    const i = rowOf.get(c.a) as number, j = columnOf.get(c.b) as number;
    (matrix[i] as number[])[j] = c.cost;
    byPlace.set(i * columns.length + j, c);
  }
  return munkres(matrix).flatMap(([i, j]) => byPlace.get(i * columns.length + j) ?? []);
}

/** Groups of candidates that share a part with one another, directly or through others. */
function components(candidates: readonly Candidate[]): Candidate[][] {
  const root = new Map<string, string>();
  const find = (x: string): string => {
    let top = x;
    for (let up = root.get(top); up !== undefined && up !== top; up = root.get(top)) top = up;
    for (let at = x; at !== top;) {
      const up = root.get(at) as string;
      root.set(at, top);
      at = up;
    }
    return top;
  };
  for (const c of candidates) {
    const a = `a${c.a}`, b = `b${c.b}`;
    if (!root.has(a)) root.set(a, a);
    if (!root.has(b)) root.set(b, b);
    const ra = find(a), rb = find(b);
    if (ra !== rb) root.set(ra, rb);
  }
  const groups = new Map<string, Candidate[]>();
  for (const c of candidates) {
    const top = find(`a${c.a}`);
    const group = groups.get(top);
    if (group) group.push(c);
    else groups.set(top, [c]);
  }
  return [...groups.values()];
}
