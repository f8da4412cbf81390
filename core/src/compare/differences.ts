/** What differs between two parts that are one and the same thing. */
import type { Difference } from '../contract/comparison.ts';
import { angleOf } from '../geometry/matrix.ts';
import { centreX, centreY, height, width } from '../geometry/box.ts';
import { anchorOf, wordsOf } from '../match/fingerprints.ts';
import { sameGeometry } from '../match/same-geometry.ts';
import type { Design, Part, Scalar } from '../model/design.ts';
import { motionBetween } from './motion.ts';
import { say, sayGeometry, sayPoint, sayShift } from './say.ts';

export interface Context {
  readonly a: Design;
  readonly b: Design;
  readonly tolerance: number;
  /** True where two group keys name the same group, renumbered. */
  readonly sameCategory: (a: string, b: string) => boolean;
}

/** Properties that are said under another aspect than style. */
const aspectOf: Readonly<Record<string, Difference['aspect']>> = { label: 'name', source: 'image', content: 'content', of: 'definition', text: 'text' };

export function differences(context: Context, a: Part, b: Part): Difference[] {
  const out: Difference[] = [];
  if (a.kind !== b.kind) out.push({ aspect: 'kind', from: a.kind, to: b.kind });
  const words = wordsOf(a), newWords = wordsOf(b);
  if (words !== newWords) out.push({ aspect: 'text', from: words, to: newWords });
  if (a.kind === 'text' && b.kind === 'text') out.push(...textPlacement(context, a, b));
  else out.push(...shapeDifferences(context, a, b));
  out.push(...definitionDifference(context, a, b), ...propertyDifferences(a.props, b.props));
  if (a.category !== b.category && !context.sameCategory(a.category, b.category)) {
    out.push({ aspect: 'layer', from: a.category || 'no layer', to: b.category || 'no layer' });
  }
  return out;
}

function textPlacement({ tolerance }: Context, a: Part, b: Part): Difference[] {
  const from = anchorOf(a), to = anchorOf(b);
  if (!from || !to) return [];
  const turn = angleOf(b.transform) - angleOf(a.transform);
  const moved = Math.abs(to[0] - from[0]) > tolerance || Math.abs(to[1] - from[1]) > tolerance;
  if (!moved && Math.abs(turn) < 0.01) return [];
  return [placement(from, to, to[0] - from[0], to[1] - from[1], turn, false)];
}

function placement(from: readonly [number, number], to: readonly [number, number], dx: number, dy: number, turn: number, mirrored: boolean): Difference {
  const how = [
    ...(Math.hypot(dx, dy) > 0 ? [`by (${sayShift(dx)}, ${sayShift(dy)})`] : []),
    ...(Math.abs(turn) >= 0.01 ? [`turned ${say(turn)}°`] : []),
    ...(mirrored ? ['mirrored'] : []),
  ];
  return { aspect: 'placement', from: sayPoint(...from), to: `${sayPoint(...to)}, ${how.join(', ')}` };
}

function shapeDifferences({ a: designA, b: designB, tolerance }: Context, a: Part, b: Part): Difference[] {
  if (!a.box || !b.box) {
    return Boolean(a.box) === Boolean(b.box) ? [] : [{ aspect: 'geometry', from: sayGeometry(designA, a), to: sayGeometry(designB, b) }];
  }
  const reach = 2 * tolerance;
  const sameBox = a.box.every((v, k) => Math.abs(v - ((b.box as readonly number[])[k] as number)) <= reach);
  const from = [a.box[0], a.box[1]] as const, to = [b.box[0], b.box[1]] as const;
  if (!a.subpaths && !b.subpaths) {
    const sameSize = Math.abs(width(a.box) - width(b.box)) <= reach && Math.abs(height(a.box) - height(b.box)) <= reach;
    return sameBox ? [] : sameSize ? [placement(from, to, to[0] - from[0], to[1] - from[1], 0, false)]
      : [{ aspect: 'geometry', from: sayGeometry(designA, a), to: sayGeometry(designB, b) }];
  }
  if (sameBox && sameGeometry(designA, a, designB, b, reach)) return [];
  const motion = motionBetween(designA, a, designB, b, reach);
  if (!motion) return [{ aspect: 'geometry', from: sayGeometry(designA, a), to: sayGeometry(designB, b) }, ...shifted(a, b, reach)];
  // A fit also "explains" a change of size; that is geometry to whoever draws.
  const resized = Math.abs(motion.scale - 1) * Math.max(width(a.box), height(a.box)) > reach;
  const dx = centreX(b.box) - centreX(a.box), dy = centreY(b.box) - centreY(a.box);
  const turned = Math.abs(motion.turn) >= 0.01 || motion.mirrored;
  const moves = turned || Math.hypot(dx, dy) > tolerance;
  return [
    ...(resized ? [{ aspect: 'geometry' as const, from: sayGeometry(designA, a), to: sayGeometry(designB, b) }] : []),
    ...(moves ? [placement(from, to, Math.hypot(dx, dy) > tolerance ? dx : 0, Math.hypot(dx, dy) > tolerance ? dy : 0, motion.turn, motion.mirrored)] : []),
  ];
}

/** A reshaped part that also went elsewhere, so that old and new place do not even touch. */
function shifted(a: Part, b: Part, reach: number): Difference[] {
  if (!a.box || !b.box) return [];
  const apart = a.box[2] < b.box[0] - reach || b.box[2] < a.box[0] - reach || a.box[3] < b.box[1] - reach || b.box[3] < a.box[1] - reach;
  return apart ? [placement([a.box[0], a.box[1]], [b.box[0], b.box[1]], b.box[0] - a.box[0], b.box[1] - a.box[1], 0, false)] : [];
}

function definitionDifference({ a, b }: Context, partA: Part, partB: Part): Difference[] {
  const from = partA.definition === undefined ? undefined : a.definitions[partA.definition];
  const to = partB.definition === undefined ? undefined : b.definitions[partB.definition];
  if (!from || !to || from.fingerprint === to.fingerprint) return [];
  const sayIt = (d: typeof from): string => `${d.name || d.kind}, ${d.parts} ${d.parts === 1 ? 'shape' : 'shapes'} (${d.fingerprint.slice(0, 6)})`;
  return [{ aspect: 'definition', from: sayIt(from), to: sayIt(to) }];
}

function propertyDifferences(a: Readonly<Record<string, Scalar>>, b: Readonly<Record<string, Scalar>>): Difference[] {
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) => !sameScalar(a[name], b[name]));
  return names.map((name) => {
    const aspect = aspectOf[name] ?? 'style';
    return { aspect, ...(aspect === 'style' ? { property: name } : {}), from: sayScalar(name, a[name]), to: sayScalar(name, b[name]) };
  });
}

/** Numbers that agree to a thousandth are the same pen. */
const sameScalar = (x: Scalar | undefined, y: Scalar | undefined): boolean =>
  x === y || (typeof x === 'number' && typeof y === 'number' && Math.abs(x - y) <= 1e-3 * Math.max(Math.abs(x), Math.abs(y)));

/** What a property is when it is not said. */
const unsaid: Readonly<Record<string, string>> = { opacity: '1', 'fill-opacity': '1', 'stroke-opacity': '1', 'font-weight': '400', 'font-style': 'normal', 'text-anchor': 'start', hidden: 'no' };

const sayScalar = (name: string, value: Scalar | undefined): string => (value === undefined ? (unsaid[name] ?? 'none') : String(value));
