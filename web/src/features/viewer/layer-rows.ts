/** Layers of A and B as one list, from the top. */
import type { Change, ChangeKind, PictureLayerEntry } from '@ovrel/core/contract';

export interface LayerLine {
  readonly name: string;
  readonly group: boolean;
  /** How many groups hold it. */
  readonly depth: number;
  /** Index of the layer in A and in B. */
  readonly a?: number;
  readonly b?: number;
  /** What happened to it or on it; nothing where it is as it was. */
  readonly sign?: ChangeKind;
  /** "hidden", "60 %", "multiply": what is not as usual. */
  readonly says: string;
}

interface Both {
  readonly a: readonly PictureLayerEntry[];
  readonly b: readonly PictureLayerEntry[];
  readonly pairs: readonly number[];
}

const depthOf = (layers: readonly PictureLayerEntry[], k: number): number => {
  let depth = 0;
  for (let g = layers[k]?.group ?? -1; g >= 0; g = layers[g]?.group ?? -1) depth++;
  return depth;
};

const says = ({ hidden, opacity, blend }: PictureLayerEntry): string =>
  [
    ...(hidden ? ['hidden'] : []),
    ...(opacity < 0.998 ? [`${Math.round(opacity * 100)} %`] : []),
    ...(blend === 'normal' ? [] : [blend]),
  ].join(', ');

/** `changes` are those of a comparison; without A, the layers of one version. */
export function layerRows({ a, b, pairs }: Both, changes: readonly Change[]): LayerLine[] {
  const signs = new Map<string, ChangeKind>();
  const toA = b.map((_, j) => pairs.indexOf(j));
  for (const c of changes) {
    if (c.part.kind === 'place') continue;
    if (c.partB?.index !== undefined) signs.set(`b${c.partB.index}`, c.kind);
    else if (c.partA?.index !== undefined) signs.set(`a${c.partA.index}`, c.kind);
  }
  // Places are on the layer that they name.
  const painted = new Set(changes.flatMap((c) => (c.part.kind === 'place' ? [c.part.category] : [])));
  const rowOf = (layer: PictureLayerEntry, side: 'a' | 'b', k: number): LayerLine => {
    const other = side === 'b' ? (toA[k] ?? -1) : -1;
    const sign = signs.get(`${side}${k}`) ?? (side === 'b' && painted.has(layer.name) ? 'changed' : undefined);
    return {
      name: layer.name,
      group: layer.kind === 'group',
      depth: depthOf(side === 'b' ? b : a, k),
      says: says(layer),
      ...(side === 'b' ? { b: k, ...(other >= 0 ? { a: other } : {}) } : { a: k }),
      ...(sign ? { sign } : {}),
    };
  };
  const out = b.map((layer, j) => rowOf(layer, 'b', j));
  // What is only in A stands beneath what it stood beneath there.
  a.forEach((layer, i) => {
    if ((pairs[i] ?? -1) >= 0) return;
    let at = 0;
    for (let k = i - 1; k >= 0 && !at; k--) at = out.findIndex((r) => r.a === k) + 1;
    out.splice(at, 0, rowOf(layer, 'a', i));
  });
  return out;
}
