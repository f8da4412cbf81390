/** From two layered pictures to what was done: to layers as such, and to the pixels of each. */
import { withChanges, type CauseDraft, type ChangeDraft } from '../../../causes/draft.ts';
import { quotedList, sayDecimal, short } from '../../../causes/phrases.ts';
import { say, type Saying } from '../../../causes/say.ts';
import { sayStanding, type LayerStanding } from '../../../causes/sayings/layers.ts';
import type { CauseKind, Difference } from '../../../contract/comparison.ts';
import { boxAround, type Box } from '../../../geometry/box.ts';
import { identity, inverse, type Matrix } from '../../../geometry/matrix.ts';
import { longestRising } from '../../../match/rising.ts';
import { pairLayers } from './pair.ts';
import { align, type Alignment } from '../align/align.ts';
import { type Bitmap } from '../../../raster/bitmap.ts';
import { comparePictures, placedIn, type ComparedPictures } from '../compare.ts';
import { PICTURE_PAGE } from '../places/places.ts';
import { files, geometry, whole } from '../wholes.ts';
import { differenceOf } from '../difference/difference.ts';
import { painted, unseen, type LayeredPicture, type PictureLayer } from '../../../model/layers.ts';
import type { Picture } from '../../../model/picture.ts';
import { warp } from '../align/warp.ts';

import { lookDifferences, type LayerDifference } from './aspects.ts';
import { boxOf, equal, groundFor, laidPlainly, onGround, onlyColour, trimmed } from './bitmaps.ts';
import { joined } from './joined.ts';

export interface ComparedLayers extends ComparedPictures {
  /** For each layer of A its pair in B, −1 for none. */
  readonly pairs: readonly number[];
}

export interface LayeredSide {
  /** All of it as it is seen. */
  readonly picture: Picture;
  readonly layered: LayeredPicture;
}

export async function compareLayers(a: LayeredSide, b: LayeredSide): Promise<ComparedLayers> {
  return new Comparing(a, b, await pairLayers(a.layered, b.layered)).run();
}

/** Layers that all went by the same, in pixels. */
interface Move {
  readonly by: readonly [number, number];
  readonly layers: { readonly name: string; readonly change: number }[];
}

class Comparing {
  private readonly changes: ChangeDraft[] = [];
  private readonly causes: CauseDraft[] = [];
  private readonly alignment: Alignment;
  /** From A's canvas to B's. */
  private readonly matrix: Matrix;
  private readonly toA: number[];
  private readonly a: LayeredSide;
  private readonly b: LayeredSide;
  private readonly pairs: readonly number[];
  /** Layers that were put together or taken apart. */
  private readonly explainedA = new Set<number>();
  private readonly explainedB = new Set<number>();

  constructor(a: LayeredSide, b: LayeredSide, pairs: readonly number[]) {
    [this.a, this.b, this.pairs] = [a, b, pairs];
    const same = a.layered.width === b.layered.width && a.layered.height === b.layered.height;
    // On one canvas every layer says itself where it lies.
    this.alignment = same ? { matrix: identity, fit: 1, found: true } : align(a.picture.bitmap, b.picture.bitmap);
    this.matrix = this.alignment.found ? this.alignment.matrix : identity;
    this.toA = b.layered.layers.map((_, j) => pairs.indexOf(j));
  }

  async run(): Promise<ComparedLayers> {
    const { a, b, alignment } = this;
    const { bitmap: seen, covered } = warp(a.picture.bitmap, alignment.matrix, b.picture.bitmap);
    const map = differenceOf(seen, b.picture.bitmap, covered, undefined);
    this.causes.push(...geometry(a.picture, b.picture, alignment), ...files(a.picture, b.picture));
    await this.flattening();
    await this.comings();
    await this.pairings();
    this.order();
    const touched = new Set(this.changes.flatMap((c) => (c.part.kind === 'place' ? [] : [c.part.index])));
    return {
      changes: this.changes,
      causes: this.causes,
      notes: [],
      alignment,
      map,
      pairs: this.pairs,
      unchanged: b.layered.layers.filter((_, j) => !touched.has(j) && (this.toA[j] ?? -1) >= 0).length,
    };
  }

  private say(kind: CauseKind, saying: Saying, weight: number, changes: readonly number[]): void {
    this.causes.push({ kind, saying, weight, parts: Math.max(1, changes.length), changes });
  }

  private layerA = (i: number): PictureLayer => this.a.layered.layers[i] as PictureLayer;
  private layerB = (j: number): PictureLayer => this.b.layered.layers[j] as PictureLayer;

  /** What of a layer is painted. */
  private async paintedBox({ layered }: LayeredSide, k: number): Promise<Box | undefined> {
    const box = layered.layers[k]?.box;
    return box && boxOf(trimmed(await layered.pixels(k), box));
  }

  private change(
    kind: ChangeDraft['kind'],
    i: number,
    j: number,
    what: readonly Difference[],
    {
      size = 0,
      boxes = [this.layerA(i)?.box, this.layerB(j)?.box],
    }: { size?: number; boxes?: readonly [Box | undefined, Box | undefined] } = {},
  ): number {
    const summary = (l: PictureLayer, index: number): ChangeDraft['part'] => ({
      key: l.key ?? null,
      kind: l.kind,
      name: l.name,
      category: l.name,
      page: PICTURE_PAGE,
      index,
    });
    const one = i >= 0 ? this.layerA(i) : undefined;
    const other = j >= 0 ? this.layerB(j) : undefined;
    const partA = one && summary(one, i);
    const partB = other && summary(other, j);
    const part = partB ?? partA;
    if (!part) throw new Error('a change needs a layer of A or of B');
    return (
      this.changes.push({
        kind,
        part,
        ...(partA ? { partA } : {}),
        ...(partB ? { partB } : {}),
        what: [...what],
        boxA: boxes[0] ? [...boxes[0]] : null,
        boxB: boxes[1] ? [...boxes[1]] : null,
        size,
      }) - 1
    );
  }

  /** Layers that came or went; a group takes what it holds along. */
  private async comings(): Promise<void> {
    const gone = (k: number): boolean => (this.pairs[k] ?? -1) < 0 && !this.explainedA.has(k);
    const fresh = (k: number): boolean => (this.toA[k] ?? -1) < 0 && !this.explainedB.has(k);
    await this.cameFrom('removed', this.a, gone);
    await this.cameFrom('added', this.b, fresh);
  }

  private async cameFrom(
    verb: 'added' | 'removed',
    side: LayeredSide,
    isOne: (layer: number) => boolean,
  ): Promise<void> {
    const { layers } = side.layered;
    const own = layers.flatMap((_, k) => (isOne(k) ? [k] : []));
    const changeOf = new Map<number, number>();
    for (const k of own) {
      const box = await this.paintedBox(side, k);
      const change =
        verb === 'removed'
          ? this.change(verb, k, -1, [], { boxes: [box, undefined] })
          : this.change(verb, -1, k, [], { boxes: [undefined, box] });
      changeOf.set(k, change);
    }
    for (const k of own) {
      const { kind, name, group } = layers[k] as PictureLayer;
      if (own.includes(group)) continue;
      const held = kind === 'group' ? own.filter((m) => isWithin(layers, m, k)) : [];
      const layersHeld = held.filter((m) => layers[m]?.kind === 'layer').length;
      const hidden = unseen(layers, k);
      const values = { layer: { kind, name }, verb, hidden, ...(held.length ? { held: layersHeld } : {}) };
      const weight = (hidden ? 8 : 10) + 0.1 * held.length;
      const changes = [k, ...held].flatMap((m) => changeOf.get(m) ?? []);
      this.say(verb, { code: 'picture-layer-came', values }, weight, changes);
    }
  }

  /** Layers that are on both sides. */
  private async pairings(): Promise<void> {
    const moves = new Map<string, Move>();
    for (const [j, i] of this.toA.entries())
      if (i >= 0 && !this.explainedB.has(j) && !this.explainedA.has(i)) await this.pair(i, j, moves);
    for (const { by, layers } of moves.values()) {
      const values = { names: layers.map((l) => l.name), by };
      const changes = layers.map((l) => l.change);
      this.say('motion', { code: 'layers-moved', values }, 8, changes);
    }
  }

  private async pair(i: number, j: number, moves: Map<string, Move>): Promise<void> {
    const other = this.layerB(j);
    const found = await this.pixels(i, j);
    const { move } = found;
    const own = [...lookDifferences(this.layerA(i), other), ...this.regrouping(i, j)];
    const what = own.map((difference) => difference.what);
    if (move) what.push({ aspect: 'placement', property: 'moved', from: '(0, 0)', to: `(${move.join(', ')}) px` });
    for (const { saying } of found.whole)
      what.push({ aspect: 'image', property: 'all of it', from: '', to: say(saying) });
    if (what.length) {
      const kind = move && what.length === 1 ? 'moved' : 'changed';
      const size = move ? Math.hypot(...move) : 0;
      const change = this.change(kind, i, j, what, { size, ...(found.boxes ? { boxes: found.boxes } : {}) });
      for (const { kind: cause, saying, weight } of own) this.say(cause, saying, weight, [change]);
      const { kind: layerKind, name } = other;
      for (const cause of found.whole)
        this.causes.push({ ...cause, within: { whole: { kind: layerKind, name } }, changes: [change] });
      if (move) addMove(moves, move, name, change);
    }
    if (found.places) this.addPlaces(j, found.places);
  }

  /** Another group, unless the group itself is another. */
  private regrouping(i: number, j: number): LayerDifference[] {
    const one = this.layerA(i);
    const other = this.layerB(j);
    const groupA = one.group < 0 ? -1 : (this.pairs[one.group] ?? -1);
    if (one.group < 0 === other.group < 0 && groupA === other.group) return [];
    const from = this.a.layered.layers[one.group]?.name;
    const to = this.b.layered.layers[other.group]?.name;
    const layer = { kind: one.kind, name: other.name };
    // Layers of a group that was dissolved, or made around them, go with it.
    return [
      {
        what: { aspect: 'layer', property: 'group', from: from ?? 'none', to: to ?? 'none' },
        kind: 'relayered',
        saying:
          to === undefined
            ? { code: 'layer-ungrouped', values: { layer, group: from ?? 'none' } }
            : { code: 'layer-grouped', values: { layer, group: to } },
        weight: 4,
      },
    ];
  }

  /** What was done to places of a layer. */
  private addPlaces(j: number, found: ComparedPictures): void {
    const { name } = this.layerB(j);
    const first = this.changes.length;
    const back = this.matrix === identity ? undefined : inverse(this.matrix);
    const places = placedIn(found.changes, {
      part: (p) => ({ ...p, category: name, name: `${p.name}, on “${short(name)}”` }),
      ...(back ? { a: (box: Box): Box => boxAround(box, back) } : {}),
    });
    this.changes.push(...places);
    const hidden = unseen(this.b.layered.layers, j) ? 1 : 0;
    const placed = found.causes.filter((cause) => cause.changes.length);
    for (const cause of withChanges(placed, (k) => first + k))
      this.causes.push({ ...cause, within: { layer: name }, weight: (cause.weight ?? 0) - hidden });
  }

  /** What was done to the pixels of a layer: moved as they are; or places, and what was done to all of them. */
  private async pixels(
    i: number,
    j: number,
  ): Promise<{
    move?: readonly [number, number];
    boxes?: readonly [Box, Box];
    whole: CauseDraft[];
    places?: ComparedPictures;
  }> {
    const one = this.layerA(i);
    const other = this.layerB(j);
    if (!one.box || !other.box) return { whole: [] };
    const still = this.matrix === identity;
    const moved = ([x, y]: readonly [number, number]): { move?: readonly [number, number] } =>
      x || y ? { move: [x, y] } : {};
    if (one.print === other.print && still)
      return { ...moved([other.box[0] - one.box[0], other.box[1] - one.box[1]]), whole: [] };
    // Programs keep layers as large as the canvas, or as what is painted on them.
    const p = trimmed(await this.a.layered.pixels(i), one.box);
    const q = trimmed(await this.b.layered.pixels(j), other.box);
    const boxes = [boxOf(p), boxOf(q)] as const;
    if (still && equal(p, q)) return { ...moved([q.x - p.x, q.y - p.y]), boxes, whole: [] };
    const colours = [onlyColour(p), onlyColour(q)] as const;
    if (colours[0] && colours[1] && colours[0] !== colours[1] && p.width === q.width && p.height === q.height)
      return {
        boxes,
        whole: [whole('style', { code: 'colour-replaced', values: { from: colours[0], to: colours[1] } }, 8)],
      };
    const ground = groundFor([p, q]);
    const from = boxAround(boxOf(p), this.matrix);
    const to = boxOf(q);
    const around: Box = [
      Math.floor(Math.min(from[0], to[0])) - ROOM,
      Math.floor(Math.min(from[1], to[1])) - ROOM,
      Math.ceil(Math.max(from[2], to[2])) + ROOM,
      Math.ceil(Math.max(from[3], to[3])) + ROOM,
    ];
    const box = still ? around : inside(around, this.shared());
    if (box[2] <= box[0] || box[3] <= box[1]) return { whole: [] };
    const before = this.laid(p, boxOf(p), box, ground);
    const after = laidPlainly(q, to, box, ground);
    const found = comparePictures(
      { ...this.a.picture, bitmap: before },
      {
        ...this.b.picture,
        bitmap: after,
        savedAs: this.a.picture.savedAs,
        lossy: this.a.picture.lossy,
        density: this.a.picture.density,
        profile: this.a.picture.profile,
      },
      { frame: { x: box[0], y: box[1], width: this.b.layered.width, height: this.b.layered.height } },
    );
    const shift = found.alignment.found ? found.alignment.matrix : identity;
    const slid = shift[0] === 1 && shift[1] === 0;
    return {
      ...moved(slid ? [Math.round(shift[4] * 100) / 100, Math.round(shift[5] * 100) / 100] : [0, 0]),
      places: found,
      boxes,
      whole: found.causes.filter((c) => !c.changes.length && !ofFiles.has(c.kind)),
    };
  }

  /** What of B's canvas A's covers, where it was cut or made larger. */
  private shared(): Box {
    const { width, height } = this.b.layered;
    const [x0, y0, x1, y1] = boxAround([0, 0, this.a.layered.width, this.a.layered.height], this.matrix);
    return inside([Math.round(x0), Math.round(y0), Math.round(x1), Math.round(y1)], [0, 0, width, height]);
  }

  /** A layer of A where it lies in B, cut to a box. */
  private laid(bitmap: Bitmap, own: Box, box: Box, ground: number): Bitmap {
    const m = this.matrix;
    const width = box[2] - box[0];
    const height = box[3] - box[1];
    if (m === identity) return laidPlainly(bitmap, own, box, ground);
    return onGround(
      warp(
        onGround(bitmap, ground),
        [
          m[0],
          m[1],
          m[2],
          m[3],
          m[0] * own[0] + m[2] * own[1] + m[4] - box[0],
          m[1] * own[0] + m[3] * own[1] + m[5] - box[1],
        ],
        { width, height },
      ).bitmap,
      ground,
    );
  }

  private order(): void {
    // Layers that stayed in their group, in A's order: those that must have been lifted are the fewest that leave the
    // rest in order.
    const groups = new Map<number, number[]>();
    this.toA.forEach((i, j) => {
      const { group } = this.layerB(j);
      const was = i >= 0 ? this.layerA(i).group : -2;
      if (i >= 0 && (was < 0 ? -1 : this.pairs[was]) === group) groups.set(group, [...(groups.get(group) ?? []), j]);
    });
    for (const list of groups.values()) {
      const places = list.map((j) => this.toA[j] as number);
      const stayed = new Set(longestRising(places));
      list.forEach((j, n) => {
        if (!stayed.has(places[n] as number)) this.lifted(j, list, places, n);
      });
    }
  }

  /** A layer of B that stands elsewhere among those of its group; `list` are these, `places` where they stood in A. */
  private lifted(j: number, list: readonly number[], places: readonly number[], n: number): void {
    const was = places[n] as number;
    const under = places.filter((p) => p < was).sort((p, q) => q - p)[0];
    const values = {
      name: this.layerB(j).name,
      now: this.standing(list[n + 1], list[n - 1]),
      was: under === undefined ? { where: 'top' as const } : { where: 'beneath' as const, of: this.layerA(under).name },
    };
    const change = this.change('changed', was, j, [
      { aspect: 'layer', property: 'order', from: sayStanding(values.was), to: sayStanding(values.now) },
    ]);
    this.say('relayered', { code: 'layer-order', values }, 6, [change]);
  }

  private standing(above: number | undefined, beneath: number | undefined): LayerStanding {
    if (above !== undefined) return { where: 'above', of: this.layerB(above).name };
    if (beneath !== undefined) return { where: 'beneath', of: this.layerB(beneath).name };
    return { where: 'elsewhere' };
  }

  /** Layers of one side that look as several of the other do together. */
  private async flattening(): Promise<void> {
    if (this.matrix !== identity) return;
    const forth = {
      from: this.a.layered,
      to: this.b.layered,
      there: (i: number) => this.pairs[i] ?? -1,
      back: (j: number) => this.toA[j] ?? -1,
    };
    const back = { from: this.b.layered, to: this.a.layered, there: forth.back, back: forth.there };
    for (const { one, many } of await joined(forth)) this.merging(one, many);
    for (const { one, many } of await joined(back)) this.dividing(one, many);
  }

  /** Several layers of A are one layer of B now. */
  private merging(one: number, many: readonly number[]): void {
    const { layered } = this.a;
    const i = this.toA[one] ?? -1;
    const into = this.layerB(one).name;
    const from = quotedList(namesOf(layered, many));
    const changes = [
      this.change(i >= 0 ? 'changed' : 'added', i, one, [{ aspect: 'layer', property: 'flattened', from, to: into }]),
      ...many.filter((k) => k !== i).map((k) => this.change('removed', k, -1, [])),
    ];
    this.take(layered, many, this.explainedA);
    this.explainedB.add(one);
    const all = painted(layered.layers).every((k) => many.includes(k) || unseen(layered.layers, k));
    const layersOnly = many.filter((k) => layered.layers[k]?.kind === 'layer');
    const values = { all, names: namesOf(layered, layersOnly), into };
    this.say('joined', { code: 'layers-merged', values }, 11, changes);
  }

  /** One layer of A is several layers of B now. */
  private dividing(one: number, many: readonly number[]): void {
    const { layered } = this.b;
    const j = this.pairs[one] ?? -1;
    const { name } = this.layerA(one);
    const into = namesOf(layered, many);
    const to = quotedList(into);
    const changes = [
      this.change(j >= 0 ? 'changed' : 'removed', one, j, [
        { aspect: 'layer', property: 'taken apart', from: name, to },
      ]),
      ...many.filter((k) => k !== j).map((k) => this.change('added', -1, k, [])),
    ];
    this.take(layered, many, this.explainedB);
    this.explainedA.add(one);
    this.say('split', { code: 'layer-divided', values: { name, into } }, 10, changes);
  }

  /** Layers, and groups of which nothing else is left. */
  private take({ layers }: LayeredPicture, many: readonly number[], into: Set<number>): void {
    const free =
      layers === this.a.layered.layers
        ? (k: number) => (this.pairs[k] ?? -1) < 0
        : (k: number) => (this.toA[k] ?? -1) < 0;
    for (const k of many) into.add(k);
    layers.forEach((l, k) => {
      if (l.kind === 'group' && free(k) && layers.every((m, n) => m.group !== k || into.has(n))) into.add(k);
    });
  }
}

const namesOf = ({ layers }: LayeredPicture, list: readonly number[]): string[] =>
  list.map((k) => layers[k]?.name ?? '');

const inside = (p: Box, q: Box): Box => [
  Math.max(p[0], q[0]),
  Math.max(p[1], q[1]),
  Math.min(p[2], q[2]),
  Math.min(p[3], q[3]),
];

/** Ground around what is painted, in pixels: enough to see that something moved. */
const ROOM = 24;
/** Said of the picture, not of each layer; or by where the layer lies. */
const ofFiles: ReadonlySet<CauseKind> = new Set([
  'origin',
  'recompressed',
  'page',
  'cropped',
  'profile',
  'property',
  'rewritten',
]);

const isWithin = (layers: readonly PictureLayer[], k: number, group: number): boolean => {
  const own = layers[k]?.group ?? -1;
  return own === group || (own >= 0 && isWithin(layers, own, group));
};

function addMove(moves: Map<string, Move>, by: readonly [number, number], name: string, change: number): void {
  const key = by.map((v) => sayDecimal(v, 6)).join(' ');
  const move = moves.get(key) ?? { by, layers: [] };
  move.layers.push({ name, change });
  moves.set(key, move);
}
