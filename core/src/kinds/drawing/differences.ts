/** What differs between two parts that are one and the same thing. */
import type { Difference } from '../../contract/comparison.ts';
import { centreX, centreY, height, width } from '../../geometry/box.ts';
import { flatAnchorOf, isPlaced, wordsOf } from '../../match/traits.ts';
import { pointRange, sameGeometry } from '../../match/same-geometry.ts';
import { cardOf } from '../../formats/registry.ts';
import { UNSEEN } from '../../model/solid.ts';
import type { Design, Part, Scalar } from '../../model/design.ts';
import { motionBetween, motionOfTransforms, stretchBetween, type Motion } from '../../match/motion.ts';
import { inSpace, type CompareSurfaces } from './in-space.ts';
import { say, sayGeometry, sayPoint, sayShift } from './say.ts';

export interface Context {
  readonly a: Design;
  readonly b: Design;
  readonly tolerance: number;
  /** True where two group keys name the same group, renumbered. */
  readonly sameCategory: (a: string, b: string) => boolean;
  /** Numbers of the definitions of both sides, equal for equal content. */
  readonly classes: { readonly a: readonly number[]; readonly b: readonly number[] };
  /** Of models: compares surfaces that are not the same number for number. */
  readonly surfaces?: CompareSurfaces | undefined;
}

export interface Differing {
  readonly what: Difference[];
  /** How the part went where it is, if it only went. */
  readonly motion?: Motion | undefined;
  /** The shift of some of its points while the others stayed. */
  readonly stretch?: readonly [number, number] | undefined;
  /** How far the furthest point went, in design units. */
  readonly size: number;
}

/** Properties that are said under another aspect than style. */
const aspectOf: Readonly<Record<string, Difference['aspect']>> = {
  [UNSEEN]: 'geometry',
  label: 'name',
  tag: 'name',
  source: 'image',
  content: 'content',
  of: 'definition',
  text: 'text',
  measured: 'content',
  'typed over': 'text',
  'by default': 'text',
  height: 'formatting',
  font: 'formatting',
  'text style': 'formatting',
  'width factor': 'formatting',
  'text width': 'formatting',
  formatting: 'formatting',
  'dimension style': 'formatting',
  'font-family': 'formatting',
  'font-size': 'formatting',
  'font-weight': 'formatting',
  'font-style': 'formatting',
  'text-anchor': 'formatting',
  'text-decoration': 'formatting',
  'letter-spacing': 'formatting',
  'word-spacing': 'formatting',
};

function placementDifferences(context: Context, a: Part, b: Part): Differing {
  if (a.space && b.space) return inSpace(context, a, b, a.space, b.space);
  if (a.lettering && b.lettering) return textPlacement(context, a, b);
  if (isPlaced(a) && isPlaced(b)) return placedDifferences(context, a, b);
  return shapeDifferences(context, a, b);
}

export function differences(context: Context, a: Part, b: Part): Differing {
  const out: Difference[] = [];
  if (a.kind !== b.kind) out.push({ aspect: 'kind', from: a.kind, to: b.kind });
  const words = wordsOf(a);
  const newWords = wordsOf(b);
  if (words !== newWords) out.push({ aspect: 'text', from: words, to: newWords });
  const placed = placementDifferences(context, a, b);
  out.push(...placed.what, ...definitionDifference(context, a, b));
  if (a.props !== b.props) out.push(...propertyDifferences(a.props, b.props).filter((w) => !isToldBy(w, out)));
  if (a.category !== b.category && !context.sameCategory(a.category, b.category)) {
    out.push({ aspect: 'layer', from: a.category || 'no layer', to: b.category || 'no layer' });
  }
  if (context.a.pages.length > 1 || context.b.pages.length > 1) {
    const from = context.a.pages[a.page]?.name ?? '';
    const to = context.b.pages[b.page]?.name ?? '';
    if (from !== to && a.page !== b.page) {
      const property = cardOf(context.b.format)?.called?.page ?? 'page';
      out.push({ aspect: 'placement', property, from, to });
    }
  }
  return { ...placed, what: out };
}

/** A part of another definition has its name with it. */
const isToldBy = ({ property, from, to }: Difference, told: readonly Difference[]): boolean =>
  (property === 'type' || property === 'name') &&
  told.some((other) => other.aspect === 'definition' && other.from === from && other.to === to);

const still: Differing = { what: [], size: 0 };

function textPlacement(context: Context, a: Part, b: Part): Differing {
  const from = flatAnchorOf(a);
  const to = flatAnchorOf(b);
  if (!from || !to) return still;
  const unit = (t: Part['transform']): Part['transform'] => {
    const k = Math.hypot(t[0], t[1]) || 1;
    return [t[0] / k, t[1] / k, t[2] / k, t[3] / k, 0, 0];
  };
  const u = unit(a.transform);
  const v = unit(b.transform);
  const motion = motionOfTransforms([u[0], u[1], u[2], u[3], from[0], from[1]], [v[0], v[1], v[2], v[3], to[0], to[1]]);
  const moved = Math.abs(to[0] - from[0]) > context.tolerance || Math.abs(to[1] - from[1]) > context.tolerance;
  const turn = motion?.turn ?? 0;
  if (!moved && Math.abs(turn) < 0.01) return still;
  return {
    what: [placement(context, from, to, moved ? to[0] - from[0] : 0, moved ? to[1] - from[1] : 0, turn, false)],
    motion,
    size: Math.hypot(to[0] - from[0], to[1] - from[1]),
  };
}

/** Directions as people read the drawing: with y upwards where it has it so. */
function placement(
  { b }: Context,
  from: readonly [number, number],
  to: readonly [number, number],
  dx: number,
  dy: number,
  turn: number,
  mirrored: boolean,
): Difference {
  const up = b.yUp ? -1 : 1;
  const how = [
    ...(Math.hypot(dx, dy) > 0 ? [`by (${sayShift(dx)}, ${sayShift(up * dy)})`] : []),
    ...(Math.abs(turn) >= 0.01 ? [`turned ${say(up * turn)}°`] : []),
    ...(mirrored ? ['mirrored'] : []),
  ];
  return {
    aspect: 'placement',
    from: sayPoint(from[0], up * from[1]),
    to: `${sayPoint(to[0], up * to[1])}, ${how.join(', ')}`,
  };
}

/** Placements whose content stands with the definition: their transforms tell all. */
function placedDifferences(context: Context, a: Part, b: Part): Differing {
  const { tolerance } = context;
  const s = a.transform;
  const t = b.transform;
  const dx = t[4] - s[4];
  const dy = t[5] - s[5];
  const motion = motionOfTransforms(s, t);
  const moved = Math.hypot(dx, dy) > tolerance;
  if (!motion) {
    const linear = (m: Part['transform']): string =>
      `scale ${say(Math.hypot(m[0], m[1]))} × ${say(Math.hypot(m[2], m[3]))}`;
    return {
      what: [
        { aspect: 'geometry', from: linear(s), to: linear(t) },
        ...(moved ? [placement(context, [s[4], s[5]], [t[4], t[5]], dx, dy, 0, false)] : []),
      ],
      size: Math.hypot(dx, dy),
    };
  }
  const turned = Math.abs(motion.turn) >= 0.01 || motion.mirrored;
  const resized = Math.abs(motion.scale - 1) > 1e-5;
  if (!moved && !turned && !resized) return still;
  const scale = (m: Part['transform']): string => `scale ${say(Math.hypot(m[0], m[1]))}`;
  return {
    what: [
      ...(resized ? [{ aspect: 'geometry' as const, from: scale(s), to: scale(t) }] : []),
      ...(moved || turned
        ? [placement(context, [s[4], s[5]], [t[4], t[5]], moved ? dx : 0, moved ? dy : 0, motion.turn, motion.mirrored)]
        : []),
    ],
    motion,
    size: Math.hypot(dx, dy),
  };
}

function shapeDifferences(context: Context, a: Part, b: Part): Differing {
  const { a: designA, b: designB, tolerance } = context;
  const geometry = (): Difference => ({
    aspect: 'geometry',
    from: sayGeometry(designA, a),
    to: sayGeometry(designB, b),
  });
  if (!a.box || !b.box) return Boolean(a.box) === Boolean(b.box) ? still : { what: [geometry()], size: 0 };
  const reach = 2 * tolerance;
  const boxB = b.box;
  const apart = a.box.map((v, k) => Math.abs(v - (boxB[k] as number)));
  const sameBox = apart.every((d) => d <= reach);
  const from = [a.box[0], a.box[1]] as const;
  const to = [b.box[0], b.box[1]] as const;
  if (!a.subpaths && !b.subpaths) {
    const sameSize = Math.abs(width(a.box) - width(b.box)) <= reach && Math.abs(height(a.box) - height(b.box)) <= reach;
    return sameBox
      ? still
      : {
          what: [sameSize ? placement(context, from, to, to[0] - from[0], to[1] - from[1], 0, false) : geometry()],
          size: Math.max(...apart),
        };
  }
  if (sameBox && sameGeometry(designA, a, designB, b, reach)) return still;
  const motion = motionBetween(designA, a, designB, b, reach);
  if (!motion)
    return {
      what: [geometry(), ...shifted(context, a, b, reach)],
      stretch: stretchBetween(designA, a, designB, b, reach),
      size: Math.max(...apart, furthest(context, a, b)),
    };
  // A fit also "explains" a change of size; that is geometry to whoever draws.
  const resized = Math.abs(motion.scale - 1) * Math.max(width(a.box), height(a.box)) > reach;
  const dx = centreX(b.box) - centreX(a.box);
  const dy = centreY(b.box) - centreY(a.box);
  const turned = Math.abs(motion.turn) >= 0.01 || motion.mirrored;
  const moves = turned || Math.hypot(dx, dy) > tolerance;
  return {
    what: [
      ...(resized ? [geometry()] : []),
      ...(moves
        ? [
            placement(
              context,
              from,
              to,
              Math.hypot(dx, dy) > tolerance ? dx : 0,
              Math.hypot(dx, dy) > tolerance ? dy : 0,
              motion.turn,
              motion.mirrored,
            ),
          ]
        : []),
    ],
    motion,
    size: Math.max(...apart),
    // Of a line, one end that moved is as good as a turn and another length.
    ...(resized || turned ? { stretch: stretchBetween(designA, a, designB, b, reach) } : {}),
  };
}

/** How far the furthest of corresponding points went; 0 where the outlines do not correspond point by point. */
function furthest({ a, b }: Context, partA: Part, partB: Part): number {
  const [fromA, toA] = pointRange(a, partA);
  const [fromB, toB] = pointRange(b, partB);
  if (toA - fromA !== toB - fromB) return 0;
  let most = 0;
  for (let k = 0; k < 2 * (toA - fromA); k += 2) {
    most = Math.max(
      most,
      Math.hypot(
        (b.geometry.points[2 * fromB + k] as number) - (a.geometry.points[2 * fromA + k] as number),
        (b.geometry.points[2 * fromB + k + 1] as number) - (a.geometry.points[2 * fromA + k + 1] as number),
      ),
    );
  }
  return most;
}

/** A reshaped part that also went elsewhere, so that old and new place do not even touch. */
function shifted(context: Context, a: Part, b: Part, reach: number): Difference[] {
  if (!a.box || !b.box) return [];
  const apart =
    a.box[2] < b.box[0] - reach ||
    b.box[2] < a.box[0] - reach ||
    a.box[3] < b.box[1] - reach ||
    b.box[3] < a.box[1] - reach;
  return apart
    ? [
        placement(
          context,
          [a.box[0], a.box[1]],
          [b.box[0], b.box[1]],
          b.box[0] - a.box[0],
          b.box[1] - a.box[1],
          0,
          false,
        ),
      ]
    : [];
}

function definitionDifference({ a, b, classes }: Context, partA: Part, partB: Part): Difference[] {
  if (
    partA.definition === undefined ||
    partB.definition === undefined ||
    classes.a[partA.definition] === classes.b[partB.definition]
  )
    return [];
  const from = a.definitions[partA.definition];
  const to = b.definitions[partB.definition];
  if (!from || !to) return [];
  // Names tell them apart, where they do.
  const isNamed = from.name !== to.name && from.name !== '' && to.name !== '';
  const sayIt = (d: typeof from): string =>
    isNamed
      ? d.name
      : `${d.name || d.kind}, ${d.parts} ${d.parts === 1 ? 'shape' : 'shapes'} (${d.fingerprint.slice(0, 6)})`;
  return [{ aspect: 'definition', from: sayIt(from), to: sayIt(to) }];
}

function propertyDifferences(a: Readonly<Record<string, Scalar>>, b: Readonly<Record<string, Scalar>>): Difference[] {
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) => !sameScalar(a[name], b[name]));
  return names.map((name) => {
    const aspect = aspectOf[name] ?? 'style';
    const plain =
      aspect === 'name' ||
      aspect === 'image' ||
      (aspect === 'content' && name === 'content') ||
      aspect === 'definition' ||
      (aspect === 'text' && name === 'text');
    if (name === UNSEEN) return { aspect, from: 'as it was', to: 'another shape' };
    return {
      aspect,
      ...(plain ? {} : { property: name }),
      from: sayScalar(name, a[name]),
      to: sayScalar(name, b[name]),
    };
  });
}

/** Numbers that agree to two thousandths are the same pen: programs write three digits of it. */
const sameScalar = (x: Scalar | undefined, y: Scalar | undefined): boolean =>
  x === y ||
  (typeof x === 'number' && typeof y === 'number' && Math.abs(x - y) <= 2e-3 * Math.max(Math.abs(x), Math.abs(y)));

/** What a property is when it is not said. */
const unsaid: Readonly<Record<string, string>> = {
  opacity: '1',
  'fill-opacity': '1',
  'stroke-opacity': '1',
  'font-weight': '400',
  'font-style': 'normal',
  'text-anchor': 'start',
  hidden: 'no',
  'line type': 'Continuous',
};

const sayScalar = (name: string, value: Scalar | undefined): string =>
  value === undefined ? (unsaid[name] ?? 'none') : String(value);
