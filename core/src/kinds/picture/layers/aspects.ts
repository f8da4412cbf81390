/** What of a layer may differ beside its pixels and its group: an entry for each, with what is said of it. */
import type { Saying } from '../../../causes/say.ts';
import type { NamedLayer } from '../../../causes/sayings/layers.ts';
import type { CauseKind, Difference } from '../../../contract/comparison.ts';
import type { PictureLayer } from '../../../model/layers.ts';

/** Something that was done to a layer: a difference of it, and what is said of that. */
export interface LayerDifference {
  readonly what: Difference;
  readonly kind: CauseKind;
  readonly saying: Saying;
  readonly weight: number;
}

/** Opacities that differ by less are the same, rounded. */
const OPACITY = 0.002;

const sayHidden = (hidden: boolean): string => (hidden ? 'hidden' : 'shown');

const percent = (v: number): string => `${Math.round(v * 100)} %`;

interface Aspect {
  readonly differs: (a: PictureLayer, b: PictureLayer) => boolean;
  readonly what: (a: PictureLayer, b: PictureLayer) => Difference;
  readonly kind: CauseKind;
  readonly saying: (a: PictureLayer, b: PictureLayer, layer: NamedLayer) => Saying;
  readonly weight: number;
}

/** What of a layer may differ beside its pixels and its group. */
const aspects: readonly Aspect[] = [
  {
    differs: (a, b) => a.name !== b.name,
    what: (a, b) => ({ aspect: 'name', from: a.name, to: b.name }),
    kind: 'layer-renamed',
    saying: (a, b) => ({
      code: 'picture-layer-renamed',
      values: { layer: { kind: a.kind, name: a.name }, to: b.name },
    }),
    weight: 4,
  },
  {
    differs: (a, b) => a.hidden !== b.hidden,
    what: (a, b) => ({ aspect: 'style', property: 'visibility', from: sayHidden(a.hidden), to: sayHidden(b.hidden) }),
    kind: 'layer-look',
    saying: (_, b, layer) => ({ code: 'layer-visibility', values: { layer, hidden: b.hidden } }),
    weight: 9,
  },
  {
    differs: (a, b) => Math.abs(a.opacity - b.opacity) > OPACITY,
    what: (a, b) => ({ aspect: 'style', property: 'opacity', from: percent(a.opacity), to: percent(b.opacity) }),
    kind: 'layer-look',
    saying: (a, b, layer) => ({ code: 'layer-opacity', values: { layer, from: a.opacity, to: b.opacity } }),
    weight: 7,
  },
  {
    differs: (a, b) => a.blend !== b.blend,
    what: (a, b) => ({ aspect: 'style', property: 'blending', from: a.blend, to: b.blend }),
    kind: 'layer-look',
    saying: (a, b, layer) => ({ code: 'layer-blending', values: { layer, from: a.blend, to: b.blend } }),
    weight: 7,
  },
  {
    differs: (a, b) => (a.words ?? '') !== (b.words ?? ''),
    what: (a, b) => ({ aspect: 'text', from: a.words ?? '', to: b.words ?? '' }),
    kind: 'text',
    saying: (a, b, layer) => ({ code: 'layer-words', values: { layer, from: a.words ?? '', to: b.words ?? '' } }),
    weight: 8.5,
  },
];

/** All that differs in how two layers are shown, and what they are called. */
export function lookDifferences(a: PictureLayer, b: PictureLayer): LayerDifference[] {
  const layer: NamedLayer = { kind: a.kind, name: b.name };
  return aspects
    .filter(({ differs }) => differs(a, b))
    .map(({ what, kind, saying, weight }) => ({ what: what(a, b), kind, saying: saying(a, b, layer), weight }));
}
