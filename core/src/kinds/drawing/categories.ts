/** Tells renumbered groups from parts that really changed layer. */
import type { Design } from '../../model/design.ts';
import type { Pairing } from '../../match/pairing.ts';

/** Share of a group's parts that must go to the same group for the two to be one. */
const MOST = 0.8;

/**
 * Group ids come from programs and may be renumbered or dropped on save. Where (nearly) all parts of one such group are
 * found in one group of the other design and it is not a name that a person gave, the two are the same group.
 */
export function sameCategories(a: Design, b: Design, pairing: Pairing): (from: string, to: string) => boolean {
  const flow = new Map<string, Map<string, number>>();
  const into = new Map<string, number>();
  const out = new Map<string, number>();
  const byKey = new Set<string>();
  pairing.toB.forEach((j, i) => {
    const x = a.parts[i];
    const y = b.parts[j];
    if (!x || !y) return;
    if (x.categoryIsKey || x.category === '') byKey.add(`a:${x.category}`);
    if (y.categoryIsKey || y.category === '') byKey.add(`b:${y.category}`);
    const row = flow.get(x.category) ?? new Map<string, number>();
    row.set(y.category, (row.get(y.category) ?? 0) + 1);
    flow.set(x.category, row);
    out.set(x.category, (out.get(x.category) ?? 0) + 1);
    into.set(y.category, (into.get(y.category) ?? 0) + 1);
  });
  return (from, to) => {
    if (!byKey.has(`a:${from}`) || !byKey.has(`b:${to}`) || (from === '' && to === '')) return false;
    const n = flow.get(from)?.get(to) ?? 0;
    const leaves = n >= MOST * (out.get(from) ?? 0);
    const arrives = n >= MOST * (into.get(to) ?? 0);
    // Ids that were dropped altogether send several groups to none.
    if (to === '') return leaves && !b.parts.some((p) => p.categoryIsKey);
    if (from === '') return arrives && !a.parts.some((p) => p.categoryIsKey);
    return leaves && arrives;
  };
}
