/**
 * Which changes are none to the eye: paths that were joined, shapes written as paths, numbers rounded, gradients
 * written in other words. Both pages are drawn, and where they look the same nothing was done to the drawing.
 */
import type { ChangeDraft } from '../../../causes/draft.ts';
import type { Difference } from '../../../contract/comparison.ts';
import { diagonal } from '../../../geometry/box.ts';
import type { Design, Page, Part } from '../../../model/design.ts';
import type { Bitmap } from '../../../raster/bitmap.ts';
import { orUnreadable, ReadError } from '../../../model/problem.ts';
import { isPaint } from '../paint.ts';
import { unitsRatio } from '../units.ts';
import { pagePairs, type Drawn, type PagePair } from './pages.ts';
import { Differing, type Share } from './to-the-eye.ts';

/** Longer side of a page in pixels, and what is tried where drawing it so takes too long. */
const SIDE = 1200;
const SMALL_SIDE = 400;
/** Icons have few units: they are drawn at so many pixels a unit. */
const PIXELS_A_UNIT = 8;
/** Drawings of more parts take too long to be drawn beside being compared. */
const MOST_PARTS = 60_000;
const MOST_PAGES = 400;
/** Distances in pixels that may be a rounding of numbers, and those that surely show. */
const SURELY_ROUNDING = 0.1;
const ROUNDING = 0.5;
const SHOWS = 3;
/** The sides of a picture are whole pixels. */
const ROUNDED_SIDE = 1.5;
/** Smaller than this in pixels, a part can hide in what its neighbours make of a pixel. */
const SMALLEST = 2;
/** Smaller than this, a placement hides what changed in its definition. */
const PLACED = 60;

/** Share of the changes of a page that do not show, from which the file was saved anew by another program. */
const SAVED_ANEW = 0.8;
/** Differing pixels for each pixel of the sides of a part that rounding its numbers makes. */
const NOISE = 0.02;

/** So many changes, and such a share of the parts of a page, are rather somebody's edit than a program's. */
const FEW = 3;
const FEW_OF = 0.2;
/** Changes that are looked at a second time, without what lies on them. */
const MOST_AGAIN = 60;

interface Listed {
  readonly changes: readonly ChangeDraft[];
  /** For each change the index of its part in A and in B, −1 for none. */
  readonly parts: readonly (readonly [number, number])[];
}

/** What of a change does not show: all of it, or its outline and place while its colour does. */
export type Unseen = 'whole' | 'outline';

/** Changes that do not show, by their index. */
export async function unseenChanges(
  a: Design,
  b: Design,
  listed: Listed,
  draw: Drawn,
): Promise<ReadonlyMap<number, Unseen>> {
  const unseen = new Map<number, Unseen>();
  if (!isJudged(a) || !isJudged(b)) return unseen;
  for (const pair of pagePairs(a, b).slice(0, MOST_PAGES)) {
    const own = [...listed.changes.keys()].filter((k) => isOn(listed.changes[k] as ChangeDraft, pair));
    const changes = own.map((k) => listed.changes[k] as ChangeDraft);
    if (unitsRatio(a, b) === 1 && !isDoubtful(changes, diagonal(pair.b.box))) continue;
    const differing = await differingOn(pair, draw);
    if (!differing) continue;
    const candidates = own.map((k) => candidateOf(k, a, b, listed, pair));
    const parts = b.parts.reduce((sum, { page }) => sum + (page === pair.inB ? 1 : 0), 0);
    const isEdit = candidates.length <= FEW && candidates.length < FEW_OF * parts;
    const isPrinted = b.traits.seenOtherwise === true;
    const page = new PageJudge(candidates, differing, { isEdit, isPrinted });
    for (const [k, what] of page.unseen()) unseen.set(k, what);
  }
  return unseen;
}

/**
 * Of drawings that do not cover one another and are not printed every number counts, however little it shows; and
 * some take too long to be drawn.
 */
const isJudged = ({ parts, traits }: Design): boolean =>
  parts.length <= MOST_PARTS && (traits.covering === true || traits.seenOtherwise === true);

/** Undefined where the page cannot be drawn in time, is of another shape now, or does not fill its picture. */
async function differingOn({ a, b, inA, inB }: PagePair, draw: Drawn): Promise<Differing | undefined> {
  const units = Math.max(b.box[2] - b.box[0], b.box[3] - b.box[1]);
  const enough = Math.min(SIDE, Math.max(SMALL_SIDE, Math.round(PIXELS_A_UNIT * units)));
  for (const side of [enough, SMALL_SIDE]) {
    const drawn = await orUnreadable(Promise.all([draw.a(inA, side), draw.b(inB, side)]));
    if (drawn instanceof ReadError) continue;
    const [before, after] = drawn.map(({ bitmap }) => bitmap) as [Bitmap, Bitmap];
    return fills(a, before) && fills(b, after) ? Differing.between(before, after) : undefined;
  }
  return undefined;
}

/** In a frame of another shape a page leaves room on two sides, and its parts stand elsewhere in the picture. */
function fills({ box }: Page, { width, height }: Bitmap): boolean {
  const pixels = Math.max(width, height) / Math.max(box[2] - box[0], box[3] - box[1]);
  const isAlike = (units: number, side: number): boolean => Math.abs(units * pixels - side) <= ROUNDED_SIDE;
  return isAlike(box[2] - box[0], width) && isAlike(box[3] - box[1], height);
}

const isOn = ({ partA, partB }: ChangeDraft, { a, b }: PagePair): boolean =>
  (partA === undefined || partA.page === a.name) && (partB === undefined || partB.page === b.name);

/** True where something may be written otherwise only: else there is no need to draw the page. */
function isDoubtful(changes: readonly ChangeDraft[], page: number): boolean {
  const came = changes.some(({ kind }) => kind === 'added');
  const went = changes.some(({ kind }) => kind === 'removed');
  const reshaped = changes.some(({ what }) => what.some(({ aspect }) => aspect === 'geometry'));
  return (went && (came || reshaped)) || changes.some((change) => isSlight(change, page));
}

function isSlight({ what, size, boxA, boxB }: ChangeDraft, page: number): boolean {
  if (what.some((w) => unlikely.has(w.aspect) || (w.aspect === 'style' && !isColour(w)))) return true;
  const shape = what.some(({ aspect }) => aspect === 'geometry' || aspect === 'placement');
  const near = SHOWS * page;
  // The same outline begun elsewhere has the same box.
  const inPlace = boxA?.every((v, n) => Math.abs(v - (boxB?.[n] ?? Infinity)) * SIDE < near) ?? false;
  return shape && (inPlace || size * SIDE < near);
}

/** Sides of a change that re-saving makes more often than people do. */
const unlikely: ReadonlySet<Difference['aspect']> = new Set(['kind', 'definition', 'image', 'formatting']);

/** A change, and what its part may draw on, before and after. */
interface Candidate {
  readonly index: number;
  readonly change: ChangeDraft;
  readonly isPaired: boolean;
  /** False for what is hidden, before and after, or lies beside the page: nobody can see whether it changed. */
  readonly isInSight: boolean;
  /** Empty where the part has no place. */
  readonly regions: readonly Share[];
  /** The longer way that the part went, as a share of the page. */
  readonly distance: number;
}

function candidateOf(index: number, a: Design, b: Design, listed: Listed, pair: PagePair): Candidate {
  const change = listed.changes[index] as ChangeDraft;
  const [i, j] = listed.parts[index] as readonly [number, number];
  const before = a.parts[i];
  const after = b.parts[j];
  const sides = [before && shareOf(before, pair.a), after && shareOf(after, pair.b)];
  const regions = sides.filter((one) => one !== undefined);
  const [x0, y0, x1, y1] = pair.b.box;
  const isPaired = before !== undefined && after !== undefined;
  const isPlaced = regions.length === (isPaired ? 2 : 1);
  return {
    index,
    change,
    isPaired,
    isInSight: [before, after].some((part) => part && part.props['hidden'] !== 'yes') && regions.some(isOnPage),
    regions: isPlaced ? regions : [],
    distance: change.size / Math.max(x1 - x0, y1 - y0),
  };
}

const isOnPage = ([x0, y0, x1, y1]: Share): boolean => x1 > 0 && y1 > 0 && x0 < 1 && y0 < 1;

interface Manner {
  readonly isEdit: boolean;
  readonly isPrinted: boolean;
}

class PageJudge {
  private readonly candidates: readonly Candidate[];
  private readonly differing: Differing;
  private readonly isEdit: boolean;
  private readonly isPrinted: boolean;

  /**
   * `isEdit`: so few changes were hardly made by saving the file anew, and nothing may differ at all. `isPrinted`:
   * words are what the file says of its glyphs, and what is seen goes before that.
   */
  constructor(candidates: readonly Candidate[], differing: Differing, { isEdit, isPrinted }: Manner) {
    this.candidates = candidates;
    this.differing = differing;
    this.isEdit = isEdit;
    this.isPrinted = isPrinted;
  }

  unseen(): Map<number, Unseen> {
    let unseen = new Set(this.candidates.filter((one) => this.isUnseen(one, 0, [])));
    // Where nearly all was only written otherwise, a few pixels along the rest are no edit either.
    if (unseen.size >= SAVED_ANEW * this.candidates.length)
      unseen = new Set(this.candidates.filter((one) => this.isUnseen(one, NOISE, [])));
    // Pairs of the wrong twins have other colours, too; where the whole page looks the same they are none.
    if (this.differing.all === 0 && unseen.size >= SAVED_ANEW * this.candidates.length)
      unseen = new Set(this.candidates.filter((one) => unseen.has(one) || !isOnlyPlain(one)));
    const seen = this.candidates.filter((one) => !unseen.has(one));
    for (const one of seen.slice(0, MOST_AGAIN)) {
      const smaller = seen.filter((other) => isMuchSmaller(other, one));
      if (this.isUnseen(one, 0, smaller)) unseen.add(one);
    }
    const isSavedAnew = unseen.size > 0;
    const rounded = seen.filter((one) => isSavedAnew && !unseen.has(one) && this.isRounded(one));
    return new Map([
      ...[...unseen].map(({ index }) => [index, 'whole'] as const),
      ...rounded.map(({ index }) => [index, 'outline'] as const),
    ]);
  }

  /** It went no further than numbers are rounded, whatever else was done to it or lies on it. */
  private isRounded({ change, isPaired, distance }: Candidate): boolean {
    const pixels = distance * Math.max(this.differing.width, this.differing.height);
    return isPaired && pixels <= (change.what.some(isPlain) ? ROUNDING : SURELY_ROUNDING);
  }

  /** `smaller` are changes that do show: what lies under them differs because of them. */
  private isUnseen(one: Candidate, noise: number, smaller: readonly Candidate[]): boolean {
    const { change, regions, isPaired } = one;
    const { differing } = this;
    if (!this.isPrinted && change.what.some(({ aspect }) => aspect === 'text')) return false;
    if (regions.length === 0) return differing.all === 0;
    if (!one.isInSight) return false;
    const distance = one.distance * Math.max(differing.width, differing.height);
    // So small a step may be one that somebody made.
    if (isPaired && distance > ROUNDING && distance < SHOWS && differing.all > 0) return false;
    // What says itself that it is another: only where not one pixel is.
    const isMoved = isPaired && distance > SURELY_ROUNDING && change.what.every(({ aspect }) => aspect === 'placement');
    const saysItself = change.what.some((one) => one.aspect === 'text' || isPlain(one));
    const isStrict = this.isEdit || isMoved || saysItself;
    const strictly = change.what.length > 0 && change.what.every(({ aspect }) => aspect === 'geometry') ? NOISE : 0;
    const explained = smaller.flatMap((other) => other.regions);
    return regions.every((region) => {
      const width = (region[2] - region[0]) * differing.width;
      const height = (region[3] - region[1]) * differing.height;
      if (Math.max(width, height) < SMALLEST && differing.all > 0) return false;
      // In so small a placement nobody sees what changed in what it places.
      const isSmall = Math.max(width, height) < PLACED && change.what.some(({ aspect }) => aspect === 'definition');
      if (isStrict || isSmall) return differing.unlikeWithin(region) <= strictly * (width + height);
      const most = isPaired && distance <= ROUNDING ? noise * (width + height) : 0;
      if (differing.within(region) <= most) return true;
      return explained.length > 0 && differing.unexplainedWithin(region, explained) === 0;
    });
  }
}

/** Words or colours alone are what somebody changed. */
const isOnlyPlain = ({ change: { what } }: Candidate): boolean =>
  what.length > 0 && what.every((one) => one.aspect === 'text' || isPlain(one));

const areaOf = ({ regions }: Candidate): number =>
  Math.max(0, ...regions.map(([x0, y0, x1, y1]) => (x1 - x0) * (y1 - y0)));

/** Share of a part that another may cover while the rest of it still tells whether it changed. */
const COVERED = 0.4;
const isMuchSmaller = (other: Candidate, one: Candidate): boolean =>
  other !== one && areaOf(other) <= COVERED * areaOf(one);

const HEX = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/;
const channelsOf = (colour: string): readonly number[] | undefined =>
  HEX.exec(colour)
    ?.slice(1)
    .map((pair) => parseInt(pair, 16));

const isColour = ({ from, to }: Difference): boolean => channelsOf(from) !== undefined && channelsOf(to) !== undefined;

/** Steps of a colour that re-saving makes. */
const SAME_COLOUR = 2;

/** Colours say themselves whether they are others. */
function isPlain(what: Difference): boolean {
  if (what.aspect !== 'style' || isPaint(what.from) || isPaint(what.to)) return false;
  const from = channelsOf(what.from);
  const to = channelsOf(what.to);
  return from !== undefined && to !== undefined && from.some((v, k) => Math.abs(v - (to[k] ?? 0)) > SAME_COLOUR);
}

/** What of its page a part may draw on; undefined for parts without a place. */
function shareOf({ box, props }: Part, page: Page): Share | undefined {
  if (!box) return undefined;
  const [x0, y0, x1, y1] = page.box;
  const pen = typeof props['stroke-width'] === 'number' ? props['stroke-width'] / 2 : 0;
  const across = x1 - x0 || 1;
  const down = y1 - y0 || 1;
  return [
    (box[0] - pen - x0) / across,
    (box[1] - pen - y0) / down,
    (box[2] + pen - x0) / across,
    (box[3] + pen - y0) / down,
  ];
}
