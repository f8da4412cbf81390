/** What of two models is shown, and how, for each way to look at them. Pure. */
import type { Change } from '@ovrel/core/contract';
import {
  asItStands,
  boxOfPoints,
  placingInScene,
  surfaceInSpace,
  type Placing,
  type Plane,
  type Space,
} from '@ovrel/core/space';
import type { Showing } from '../looks.ts';
import { groupsOf, offOnly, type Paint } from './groups.ts';
import type { Box3 } from './orbit.ts';
import type { Side } from './nodes.ts';
import type { Shown } from './stage.ts';
import type { Spaces } from './useSpaces.ts';
import type { Spot3 } from './ways.ts';

/** Ways to look at models, in the order of their keys. */
export const spaceLooks: readonly Showing[] = ['overlay', 'side', 'curtain', 'blink', 'only', 'heat'];

export interface Asked {
  readonly look: Showing;
  readonly comparing: boolean;
  readonly changes: readonly Change[];
  readonly selected: string | undefined;
  /** Parts of B, or of A, that are not to be seen. */
  readonly hidden: ReadonlySet<string>;
  readonly curtain: number;
  readonly blinkA: boolean;
  readonly parallel: boolean;
  /** Where the scale of heat ends. */
  readonly most: number;
  /** How A lies over B, where it was moved as a whole. */
  readonly laid: readonly number[] | undefined;
  readonly cut: Plane | undefined;
  readonly spots: readonly Spot3[];
}

/** Share of the largest distance within which a surface is as it was. */
const NEARLY = 1e-3;

/** Whether it stands for a part, and not for a place on one. */
const isOfPart = ({ material }: Change): boolean => material === undefined;

/** More are not laid over one another. */
const MOST_PAIRS = 400;

/** Parts that stand otherwise, or have another surface: numbers among the parts of A and of B. */
export const pairsLaid = (changes: readonly Change[]): (readonly [number, number])[] =>
  changes
    .flatMap((change) => {
      const [i, j] = [change.partA?.index, change.partB?.index];
      return isOfPart(change) && i !== undefined && j !== undefined ? [[i, j] as const] : [];
    })
    .slice(0, MOST_PAIRS);

export function shownOf(spaces: Spaces, asked: Asked): Shown | undefined {
  const { b } = spaces;
  if (!b) return undefined;
  const { look, comparing, parallel, cut, spots } = asked;
  const common = { parallel, mark: markOf(asked, b), cut, spots };
  if (!comparing) return { a: undefined, b: sideOf(b, asItStands, plainPaint(asked, 'b'), {}), way: 'one', ...common };
  const { a } = spaces;
  // Beside one another each stands as it does in its file.
  const laid = look === 'side' ? undefined : asked.laid;
  const standsA = a ? placingInScene(a.head, b.head, laid) : asItStands;
  const [paintA, paintB] = [paintsOf(asked, 'a'), paintsOf(asked, 'b')];
  const heat = spaces.distances && asked.most > 0 ? asked.most : undefined;
  const whole = (side: 'a' | 'b'): Side | undefined => {
    const space = side === 'a' ? a : b;
    const paints = side === 'a' ? paintA : paintB;
    return (
      space && sideOf(space, side === 'a' ? standsA : asItStands, seen(paints, asked, side, 'plain'), { dashed: false })
    );
  };
  switch (look) {
    case 'side':
      return { a: whole('a'), b: whole('b'), way: 'beside', ...common };
    case 'curtain':
      return { a: whole('a'), b: whole('b'), way: { curtain: asked.curtain }, ...common };
    case 'blink':
      return { a: undefined, b: whole(asked.blinkA ? 'a' : 'b'), way: 'one', ...common };
    case 'heat':
      return {
        a: undefined,
        b: sideOf(b, asItStands, seen(paintB, asked, 'b', 'same'), {
          heat: heat ?? 1,
          distances: spaces.distances?.ofB,
        }),
        way: 'one',
        ...common,
      };
    default: {
      const isOnly = look === 'only';
      const onB = seen(paintB, asked, 'b', isOnly ? undefined : 'same');
      // Of A only what is no longer so is seen.
      const onA = seen(paintA, asked, 'a', undefined);
      const ofB = sideOf(b, asItStands, onB, {
        faint: paintB.size > 0 || paintA.size > 0,
        ...(heat !== undefined ? { heatOfChanged: heat, distances: spaces.distances?.ofB } : {}),
      });
      return {
        a:
          a && sideOf(a, standsA, onA, { dashed: true, beyond: asked.most * NEARLY, distances: spaces.distances?.ofA }),
        b: ofB,
        way: 'one',
        ...common,
      };
    }
  }
}

type Paints = ReadonlyMap<number, Paint>;

/** Parts of a side that are not as they are on the other. */
function paintsOf({ changes }: Asked, side: 'a' | 'b'): Paints {
  const paints = new Map<number, Paint>();
  for (const change of changes) {
    const index = side === 'a' ? change.partA?.index : change.partB?.index;
    if (index !== undefined && isOfPart(change)) paints.set(index, change.kind);
  }
  return paints;
}

const seen =
  (paints: Paints, { hidden }: Asked, side: 'a' | 'b', rest: Paint | undefined) =>
  (part: number): Paint | undefined => {
    if (hidden.has(`${side}${part}`)) return undefined;
    return rest === 'plain' ? 'plain' : (paints.get(part) ?? rest);
  };

const plainPaint =
  ({ hidden }: Asked, side: 'a' | 'b') =>
  (part: number): Paint | undefined =>
    hidden.has(`${side}${part}`) ? undefined : 'plain';

interface How {
  readonly faint?: boolean;
  readonly dashed?: boolean;
  readonly heat?: number;
  /** The same of what changed alone. */
  readonly heatOfChanged?: number;
  readonly distances?: ReadonlyMap<number, Float32Array> | undefined;
  /** Of what changed, only what lies further off than this. */
  readonly beyond?: number;
}

function sideOf(space: Space, stands: Placing, paintOf: (part: number) => Paint | undefined, how: How): Side {
  const groups = groupsOf(space, { paintOf, distancesOf: (part) => how.distances?.get(part), stands });
  return {
    groups: how.beyond === undefined ? groups : groups.map((group) => offOnly(group, how.beyond as number)),
    faint: how.faint ?? false,
    dashed: how.dashed ?? false,
    heat: how.heat,
    heatOfChanged: how.heatOfChanged,
  };
}

/** Where what is chosen lies, from the origin of the scene. */
function markOf({ changes, selected }: Asked, { head }: Space): Box3 | undefined {
  const box = boxOfChange(changes.find(({ id }) => id === selected));
  const [x = 0, y = 0, z = 0] = head.origin;
  return box && [box[0] - x, box[1] - y, box[2] - z, box[3] - x, box[4] - y, box[5] - z];
}

/** Of a change, in the world; both places of what moved. */
export function boxOfChange(change: Change | undefined): Box3 | undefined {
  if (!change) return undefined;
  const boxes = [
    [change.boxA, change.zA],
    [change.boxB, change.zB],
  ] as const;
  return boxes.reduce<Box3 | undefined>((all, [box, rise]) => {
    if (!box || !rise) return all;
    const own: Box3 = [box[0], box[1], rise[0], box[2], box[3], rise[1]];
    return all ? united(all, own) : own;
  }, undefined);
}

/** Of a part, in the world. */
export function boxOfPart(space: Space | undefined, part: number): Box3 | undefined {
  const surface = space && surfaceInSpace(space, part);
  return surface && boxOfPoints(surface.points);
}

export const united = (p: Box3, q: Box3): Box3 => [
  Math.min(p[0], q[0]),
  Math.min(p[1], q[1]),
  Math.min(p[2], q[2]),
  Math.max(p[3], q[3]),
  Math.max(p[4], q[4]),
  Math.max(p[5], q[5]),
];
