import type { Rename, Source, SourceNode } from '../model/source.ts';

/** Handles are numbers that each file gives by itself. */
const unnumbered: Rename = (key) => (key.startsWith('handle ') ? 'handle 0' : undefined);

/** Whether two nodes say the same, and all that they hold does. */
export function isEqualTree(x: Source, p: number, y: Source, q: number): boolean {
  const [a, b] = [x.nodes[p] as SourceNode, y.nodes[q] as SourceNode];
  if (a.kind !== b.kind || a.children.length !== b.children.length) return false;
  const own = x.fields(p, unnumbered);
  const other = y.fields(q, unnumbered);
  if (own.size !== other.size || [...own].some(([name, value]) => other.get(name) !== value)) return false;
  return a.children.every((child, k) => isEqualTree(x, child, y, b.children[k] as number));
}
