/** A version that takes part in a join: how it is written, and what it shows. */
import type { Design } from '../model/design.ts';
import type { Source, SourceNode } from '../model/source.ts';

export interface Side {
  readonly source: Source;
  readonly design: Design;
  /** For each part of the design its node, −1 for none; and the other way round. */
  readonly nodeOfPart: Int32Array;
  readonly partOfNode: Int32Array;
}

export function sideOf(source: Source, design: Design): Side {
  const nodeOfPart = new Int32Array(design.parts.length).fill(-1);
  const partOfNode = new Int32Array(source.nodes.length).fill(-1);
  design.parts.forEach(({ span }, part) => {
    const node = source.nodeOf(span, part);
    if (node < 0) return;
    nodeOfPart[part] = node;
    partOfNode[node] = part;
  });
  return { source, design, nodeOfPart, partOfNode };
}

export const nodeAt = (source: Source, node: number): SourceNode => source.nodes[node] as SourceNode;

/** A node and all that it holds, parents first. */
export function* within(source: Source, top: number): Generator<number> {
  const pending = [top];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    yield node;
    const { children } = nodeAt(source, node);
    for (let k = children.length - 1; k >= 0; k--) pending.push(children[k] as number);
  }
}

/** What holds a node, from its parent to the root. */
export function* around(source: Source, node: number): Generator<number> {
  for (let at = nodeAt(source, node).parent; at >= 0; at = nodeAt(source, at).parent) yield at;
}

/** Parts of the design that a node or something in it draws. */
export function* partsWithin(side: Side, top: number): Generator<number> {
  for (const node of within(side.source, top)) {
    const part = side.partOfNode[node] as number;
    if (part >= 0) yield part;
  }
}
