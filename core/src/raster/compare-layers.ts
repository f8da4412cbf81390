/** From two layered pictures to what was done: to layers as such, and to the pixels of each. */
import type { Cause, CauseKind, Change, Difference } from '../contract/comparison.ts';
import { boxAround, type Box } from '../geometry/box.ts';
import { identity, inverse, type Matrix } from '../geometry/matrix.ts';
import { longestRising } from '../match/rising.ts';
import { pairLayers } from '../match/layers.ts';
import { plural } from '../text/plural.ts';
import { align, type Alignment } from './align.ts';
import { words, type Bitmap } from './bitmap.ts';
import { asItIs, comparePictures, placedIn, type ComparedPictures } from './compare-pictures.ts';
import { PICTURE_PAGE } from './places.ts';
import { files, geometry } from './wholes.ts';
import { differenceOf } from './difference.ts';
import { painted, unseen, type LayeredPicture, type PictureLayer } from './layers.ts';
import type { Picture } from './picture.ts';
import { warp } from './warp.ts';

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

type Said = Omit<Cause, 'id'>;

class Comparing {
  private readonly changes: Change[] = [];
  private readonly causes: Said[] = [];
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
    for (const [kind, sentence, weight] of [
      ...geometry(a.picture, b.picture, alignment),
      ...files(a.picture, b.picture),
    ])
      this.say(kind, sentence, weight, []);
    await this.flattening();
    await this.comings();
    const moves = new Map<string, { by: string; layers: { name: string; change: string }[] }>();
    for (const [j, i] of this.toA.entries())
      if (i >= 0 && !this.explainedB.has(j) && !this.explainedA.has(i)) await this.pair(i, j, moves);
    for (const { by, layers } of moves.values())
      this.say(
        'motion',
        `${layers.length === 1 ? layer(layers[0]?.name ?? '') : `${plural(layers.length, 'layer')} (${quotedList(layers.map((l) => l.name))})`} moved by ${by} px`,
        8,
        layers.map((l) => l.change),
      );
    this.order();
    const causes = this.causes
      .sort((p, q) => q.weight - p.weight)
      .map((c, n) => ({ id: `k${n + 1}`, ...c, weight: Math.round(c.weight * 100) / 100 }));
    const tally = (kind: Change['kind']): number => this.changes.filter((c) => c.kind === kind).length;
    const touched = new Set(this.changes.flatMap((c) => (c.part.kind === 'place' ? [] : [c.part.index])));
    return {
      changes: this.changes,
      causes,
      notes: [],
      alignment,
      map,
      pairs: this.pairs,
      counts: {
        added: tally('added'),
        removed: tally('removed'),
        changed: tally('changed'),
        moved: tally('moved'),
        unchanged: b.layered.layers.filter((_, j) => !touched.has(j) && (this.toA[j] ?? -1) >= 0).length,
      },
    };
  }

  private say(kind: CauseKind, sentence: string, weight: number, changes: readonly string[]): void {
    this.causes.push({ kind, sentence, weight, parts: Math.max(1, changes.length), changes: [...changes] });
  }

  private layerA = (i: number): PictureLayer => this.a.layered.layers[i] as PictureLayer;
  private layerB = (j: number): PictureLayer => this.b.layered.layers[j] as PictureLayer;

  /** What of a layer is painted. */
  private async paintedBox({ layered }: LayeredSide, k: number): Promise<Box | undefined> {
    const box = layered.layers[k]?.box;
    return box && boxOf(trimmed(await layered.pixels(k), box));
  }

  private change(
    kind: Change['kind'],
    i: number,
    j: number,
    what: readonly Difference[],
    {
      size = 0,
      boxes = [this.layerA(i)?.box, this.layerB(j)?.box],
    }: { size?: number; boxes?: readonly [Box | undefined, Box | undefined] } = {},
  ): string {
    const summary = (l: PictureLayer, index: number): NonNullable<Change['partA']> => ({
      key: l.key ?? null,
      kind: l.kind,
      name: l.name,
      category: l.name,
      page: PICTURE_PAGE,
      index,
    });
    const id = `c${this.changes.length + 1}`;
    const one = i >= 0 ? this.layerA(i) : undefined;
    const other = j >= 0 ? this.layerB(j) : undefined;
    const partA = one && summary(one, i);
    const partB = other && summary(other, j);
    const part = partB ?? partA;
    if (part)
      this.changes.push({
        id,
        kind,
        part,
        ...(partA ? { partA } : {}),
        ...(partB ? { partB } : {}),
        what: [...what],
        boxA: boxes[0] ? [...boxes[0]] : null,
        boxB: boxes[1] ? [...boxes[1]] : null,
        size,
      });
    return id;
  }

  /** Layers that came or went; a group takes what it holds along. */
  private async comings(): Promise<void> {
    const sides = [
      ['removed', this.a.layered, (k: number) => (this.pairs[k] ?? -1) < 0 && !this.explainedA.has(k)],
      ['added', this.b.layered, (k: number) => (this.toA[k] ?? -1) < 0 && !this.explainedB.has(k)],
    ] as const;
    for (const [kind, { layers }, isOne] of sides) {
      const own = layers.flatMap((_, k) => (isOne(k) ? [k] : []));
      const ids = new Map<number, string>();
      const verb = kind === 'removed' ? 'deleted' : 'added';
      for (const k of own)
        ids.set(
          k,
          kind === 'removed'
            ? this.change('removed', k, -1, [], { boxes: [await this.paintedBox(this.a, k), undefined] })
            : this.change('added', -1, k, [], { boxes: [undefined, await this.paintedBox(this.b, k)] }),
        );
      const within = (k: number, group: number): boolean =>
        layers[k]?.group === group || ((layers[k]?.group ?? -1) >= 0 && within(layers[k]?.group ?? -1, group));
      for (const k of own) {
        const l = layers[k] as PictureLayer;
        const hidden = unseen(layers, k) ? (kind === 'removed' ? ', was hidden' : ', hidden') : '';
        if (own.includes(l.group)) continue;
        const held = l.kind === 'group' ? own.filter((m) => within(m, k)) : [];
        const id = ids.get(k) ?? '';
        if (l.kind === 'group')
          this.say(
            kind,
            `Group “${l.name}” ${verb}${held.length ? `, with ${plural(held.filter((m) => layers[m]?.kind === 'layer').length, 'layer')}` : ''}${hidden}`,
            (hidden ? 8 : 10) + 0.1 * held.length,
            [id, ...held.map((m) => ids.get(m) ?? '')],
          );
        else this.say(kind, `${layer(l.name)} ${verb}${hidden}`, hidden ? 8 : 10, [id]);
      }
    }
  }

  private async pair(
    i: number,
    j: number,
    moves: Map<string, { by: string; layers: { name: string; change: string }[] }>,
  ): Promise<void> {
    const one = this.layerA(i);
    const other = this.layerB(j);
    const what: Difference[] = [];
    const says: [CauseKind, string, number][] = [];
    const called = `${one.kind === 'group' ? 'Group' : 'Layer'} “${other.name}”`;
    if (one.name !== other.name) {
      what.push({ aspect: 'name', from: one.name, to: other.name });
      says.push([
        'layer-renamed',
        `${one.kind === 'group' ? 'Group' : 'Layer'} “${one.name}” renamed “${other.name}”`,
        4,
      ]);
    }
    if (one.hidden !== other.hidden) {
      what.push({
        aspect: 'style',
        property: 'visibility',
        from: one.hidden ? 'hidden' : 'shown',
        to: other.hidden ? 'hidden' : 'shown',
      });
      says.push(['layer-look', `${called} ${other.hidden ? 'hidden' : 'shown'}`, 9]);
    }
    if (Math.abs(one.opacity - other.opacity) > 0.002) {
      what.push({ aspect: 'style', property: 'opacity', from: percent(one.opacity), to: percent(other.opacity) });
      says.push(['layer-look', `${called}: opacity ${percent(one.opacity)} → ${percent(other.opacity)}`, 7]);
    }
    if (one.blend !== other.blend) {
      what.push({ aspect: 'style', property: 'blending', from: one.blend, to: other.blend });
      says.push(['layer-look', `${called}: blending ${one.blend} → ${other.blend}`, 7]);
    }
    if ((one.words ?? '') !== (other.words ?? '')) {
      what.push({ aspect: 'text', from: one.words ?? '', to: other.words ?? '' });
      says.push(['text', `${called}: “${short(one.words ?? '')}” now “${short(other.words ?? '')}”`, 8.5]);
    }
    const groupA = one.group < 0 ? -1 : (this.pairs[one.group] ?? -1);
    if (one.group < 0 !== other.group < 0 || groupA !== other.group) {
      const name = (l: PictureLayer, of: LayeredPicture): string => of.layers[l.group]?.name ?? 'none';
      const from = name(one, this.a.layered);
      const to = name(other, this.b.layered);
      // Layers of a group that was dissolved, or made around them, go with it.
      what.push({ aspect: 'layer', property: 'group', from, to });
      says.push([
        'relayered',
        to === 'none' ? `${called} taken out of group “${from}”` : `${called} put into group “${to}”`,
        4,
      ]);
    }
    const found = await this.pixels(i, j);
    const { move } = found;
    if (move) what.push({ aspect: 'placement', property: 'moved', from: '(0, 0)', to: `(${move.join(', ')}) px` });
    if (found.whole.length)
      what.push(
        ...found.whole.map(([, sentence]): Difference => ({
          aspect: 'image',
          property: 'all of it',
          from: '',
          to: sentence,
        })),
      );
    const n = this.changes.length;
    const id = what.length
      ? this.change(move && what.length === 1 ? 'moved' : 'changed', i, j, what, {
          size: move ? Math.hypot(...move) : 0,
          ...(found.boxes ? { boxes: found.boxes } : {}),
        })
      : '';
    for (const [kind, sentence, weight] of says) this.say(kind, sentence, weight, [id]);
    for (const [kind, sentence, weight] of found.whole)
      this.say(kind, `${called}: ${sentence.slice(0, 1).toLowerCase()}${sentence.slice(1)}`, weight, [id]);
    if (move) {
      const by = `(${move.map((v) => String(v).replace('-', '−')).join(', ')})`;
      const group = moves.get(by) ?? { by, layers: [] };
      group.layers.push({ name: other.name, change: id });
      moves.set(by, group);
    }
    if (!found.places) return;
    const back = inverse(this.matrix);
    const { changes, ids } = placedIn(
      found.places.changes,
      n + (id ? 1 : 0) + 1,
      (p) => ({ ...p, category: other.name, name: `${p.name}, on “${short(other.name)}”` }),
      { ...asItIs, ...(back && this.matrix !== identity ? { a: (box: Box): Box => boxAround(box, back) } : {}) },
    );
    this.changes.push(...changes);
    for (const cause of found.places.causes)
      if (cause.changes.length)
        this.causes.push({
          ...cause,
          sentence: `${cause.sentence} on layer “${other.name}”`,
          weight: cause.weight - (unseen(this.b.layered.layers, j) ? 1 : 0),
          changes: cause.changes.map((c) => ids.get(c) ?? c),
        });
  }

  /** What was done to the pixels of a layer: moved as they are; or places, and what was done to all of them. */
  private async pixels(
    i: number,
    j: number,
  ): Promise<{
    move?: readonly [number, number];
    boxes?: readonly [Box, Box];
    whole: (readonly [CauseKind, string, number])[];
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
      return { boxes, whole: [['style', `Recoloured ${colours[0]} → ${colours[1]}`, 8]] };
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
        format: this.a.picture.format,
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
      whole: found.causes
        .filter((c) => !c.changes.length && !ofFiles.has(c.kind))
        .map((c) => [c.kind, c.sentence, c.weight] as const),
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
    // Layers that stayed in their group, in A's order: those that must have been lifted are the fewest that leave the rest in order.
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
        if (stayed.has(places[n] as number)) return;
        const above = list[n + 1];
        const beneath = list[n - 1];
        const said =
          above !== undefined
            ? `above “${this.layerB(above).name}”`
            : beneath !== undefined
              ? `beneath “${this.layerB(beneath).name}”`
              : 'elsewhere';
        const was = places[n] as number;
        const under = places.filter((p) => p < was).sort((p, q) => q - p)[0];
        const before = under === undefined ? 'on top' : `beneath “${this.layerA(under).name}”`;
        const id = this.change('changed', was, j, [{ aspect: 'layer', property: 'order', from: before, to: said }]);
        this.say('relayered', `Order changed: layer “${this.layerB(j).name}” is now ${said}, was ${before}`, 6, [id]);
      });
    }
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
    for (const { one, many } of await joined(forth)) {
      const i = this.toA[one] ?? -1;
      const name = this.layerB(one).name;
      const all = painted(this.a.layered.layers).every((k) => many.includes(k) || unseen(this.a.layered.layers, k));
      const ids = [
        this.change(i >= 0 ? 'changed' : 'added', i, one, [
          { aspect: 'layer', property: 'flattened', from: quotedList(namesOf(this.a.layered, many)), to: name },
        ]),
        ...many.filter((k) => k !== i).map((k) => this.change('removed', k, -1, [])),
      ];
      this.take(this.a.layered, many, this.explainedA);
      this.explainedB.add(one);
      this.say(
        'joined',
        `${all ? 'Layers flattened' : 'Layers put together'}: ${quotedList(
          namesOf(
            this.a.layered,
            many.filter((k) => this.a.layered.layers[k]?.kind === 'layer'),
          ),
        )} are one layer now, “${name}”; they look the same`,
        11,
        ids,
      );
    }
    for (const { one, many } of await joined(back)) {
      const j = this.pairs[one] ?? -1;
      const name = this.layerA(one).name;
      const ids = [
        this.change(j >= 0 ? 'changed' : 'removed', one, j, [
          { aspect: 'layer', property: 'taken apart', from: name, to: quotedList(namesOf(this.b.layered, many)) },
        ]),
        ...many.filter((k) => k !== j).map((k) => this.change('added', -1, k, [])),
      ];
      this.take(this.b.layered, many, this.explainedB);
      this.explainedA.add(one);
      this.say(
        'split',
        `Layer “${name}” taken apart: it is ${quotedList(namesOf(this.b.layered, many))} now; they look the same`,
        10,
        ids,
      );
    }
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

/** Layers of `to` that look as several layers of `from` do together, which are not there any more. */
async function joined({
  from,
  to,
  there,
  back,
}: {
  from: LayeredPicture;
  to: LayeredPicture;
  there: (k: number) => number;
  back: (k: number) => number;
}): Promise<{ one: number; many: number[] }[]> {
  const out: { one: number; many: number[] }[] = [];
  const gone = new Set(painted(from.layers).filter((k) => there(k) < 0 && !unseen(from.layers, k)));
  for (const j of painted(to.layers)) {
    const i = back(j);
    const other = to.layers[j] as PictureLayer;
    if (!gone.size || (i >= 0 && (from.layers[i]?.print === other.print || unseen(from.layers, i)))) continue;
    const many = [...gone, ...(i >= 0 ? [i] : [])].sort((p, q) => p - q);
    if (
      many.length < 2 ||
      !alike(
        await from.compose(new Set(many)),
        laidPlainly(await to.pixels(j), other.box as Box, [0, 0, to.width, to.height], undefined),
      )
    )
      continue;
    out.push({ one: j, many });
    for (const k of many) gone.delete(k);
  }
  return out;
}

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

/** A bitmap with the place of its upper left corner on the canvas. */
interface PlacedBitmap extends Bitmap {
  readonly x: number;
  readonly y: number;
}

const boxOf = ({ x, y, width, height }: PlacedBitmap): Box => [x, y, x + width, y + height];

/** What of a layer is painted. */
function trimmed({ width, height, data }: Bitmap, [x, y]: Box): PlacedBitmap {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let row = 0; row < height; row++) {
    const from = 4 * row * width + 3;
    let first = 0;
    let last = width - 1;
    while (first < width && !data[from + 4 * first]) first++;
    if (first === width) continue;
    while (!data[from + 4 * last]) last--;
    [left, top, right, bottom] = [Math.min(left, first), Math.min(top, row), Math.max(right, last + 1), row + 1];
  }
  if (right <= left) return { x, y, width: 1, height: 1, data: new Uint8Array(4) };
  if (right - left === width && bottom - top === height) return { x, y, width, height, data };
  const out = new Uint8Array(4 * (right - left) * (bottom - top));
  for (let row = top; row < bottom; row++)
    out.set(data.subarray(4 * (row * width + left), 4 * (row * width + right)), 4 * (row - top) * (right - left));
  return { x: x + left, y: y + top, width: right - left, height: bottom - top, data: out };
}

/** The one colour of what is painted, as #rrggbb; undefined where there are several. */
function onlyColour(bitmap: Bitmap): string | undefined {
  const all = words(bitmap);
  const first = all[0] as number;
  if (!all.every((v) => v === first)) return undefined;
  return `#${[0, 1, 2].map((c) => (bitmap.data[c] as number).toString(16).padStart(2, '0')).join('')}`;
}

const layer = (name: string): string => `Layer “${name}”`;
const percent = (v: number): string => `${Math.round(v * 100)} %`;
const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 39)}…` : text).replace(/\s+/g, ' ');

export function quotedList(names: readonly string[]): string {
  const quoted = names.map((n) => `“${n}”`);
  if (quoted.length > 4) return `${quoted.slice(0, 3).join(', ')} and ${quoted.length - 3} more`;
  return quoted.length > 1 ? `${quoted.slice(0, -1).join(', ')} and ${quoted.at(-1)}` : (quoted[0] ?? '');
}

function equal(a: Bitmap, b: Bitmap): boolean {
  if (a.width !== b.width || a.height !== b.height) return false;
  const p = words(a);
  const q = words(b);
  // Where nothing is painted, colours do not count.
  return p.every((v, k) => v === q[k] || (a.data[4 * k + 3] === 0 && b.data[4 * k + 3] === 0));
}

/** A grey that the fewest pixels come near to, so that what is painted stands out from it. */
function groundFor(bitmaps: readonly Bitmap[]): number {
  const counts = [0, 0, 0];
  for (const { data } of bitmaps) {
    for (let p = 0; p < data.length; p += 4 * (1 + (data.length >> 18))) {
      if ((data[p + 3] as number) < 32) continue;
      const grey = (54 * (data[p] as number) + 183 * (data[p + 1] as number) + 19 * (data[p + 2] as number)) >> 8;
      const k = grey < 70 ? 0 : grey < 180 ? 1 : 2;
      counts[k] = (counts[k] as number) + 1;
    }
  }
  // White where it does: that is what most layers are made to be seen on.
  return (
    [
      [2, 255],
      [0, 0],
      [1, 119],
    ] as const
  ).reduce((best, next) => ((counts[next[0]] as number) < (counts[best[0]] as number) ? next : best))[1];
}

function onGround({ width, height, data }: Bitmap, ground: number): Bitmap {
  const out = new Uint8ClampedArray(data.length);
  for (let p = 0; p < out.length; p += 4) {
    const alpha = (data[p + 3] as number) / 255;
    for (let c = 0; c < 3; c++) out[p + c] = ground + alpha * ((data[p + c] as number) - ground);
    out[p + 3] = 255;
  }
  return { width, height, data: out };
}

/** A bitmap as it lies in a box, on a ground; transparent where there is none. */
function laidPlainly(bitmap: Bitmap, own: Box, box: Box, ground: number | undefined): Bitmap {
  const width = box[2] - box[0];
  const height = box[3] - box[1];
  const out = new Uint32Array(width * height).fill(
    ground === undefined ? 0 : ((0xff << 24) | (ground << 16) | (ground << 8) | ground) >>> 0,
  );
  const from = words(ground === undefined ? bitmap : onGround(bitmap, ground));
  const dx = own[0] - box[0];
  const dy = own[1] - box[1];
  for (let y = Math.max(0, -dy); y < bitmap.height && y + dy < height; y++) {
    const left = Math.max(0, -dx);
    const right = Math.min(bitmap.width, width - dx);
    if (right > left)
      out.set(from.subarray(y * bitmap.width + left, y * bitmap.width + right), (y + dy) * width + left + dx);
  }
  return { width, height, data: new Uint8Array(out.buffer) };
}

/** Greatest mean difference of a channel, and share of pixels that may differ by more than a little, of pictures that look the same. */
const MEAN = 1.5;
const FEW = 0.01;
const LITTLE = 12;

function alike(a: Bitmap, b: Bitmap): boolean {
  const p = onGround(a, 255).data;
  const q = onGround(b, 255).data;
  let sum = 0;
  let far = 0;
  for (let k = 0; k < p.length; k += 4) {
    const most = Math.max(
      Math.abs((p[k] as number) - (q[k] as number)),
      Math.abs((p[k + 1] as number) - (q[k + 1] as number)),
      Math.abs((p[k + 2] as number) - (q[k + 2] as number)),
    );
    sum += most;
    if (most > LITTLE) far++;
  }
  return sum / (p.length / 4) < MEAN && far / (p.length / 4) < FEW;
}
