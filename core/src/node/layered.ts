/** Opens layered pictures: layers are decoded when they are asked for, and laid over one another by `sharp`. */
import sharp, { type Blend, type OverlayOptions, type Sharp } from 'sharp';
import { readOra } from '../formats/ora/read.ts';
import { writeOra, type LayerToWrite, type OraToWrite } from '../formats/ora/write.ts';
import { readPsd } from '../formats/psd/read.ts';
import { defaultLimits } from '../model/limits.ts';
import { ReadError } from '../model/problem.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import type { OpenLayered } from '../model/format.ts';
import { unseen, type LayeredPicture, type PictureLayer } from '../model/layers.ts';
import { MOST_PIXELS } from '../model/picture.ts';

/** Throws ReadError with a sentence. */
export async function openPsd(bytes: Uint8Array): Promise<OpenLayered> {
  const { pixels, merged, ...psd } = readPsd(bytes);
  const taken = (k: number): Promise<Bitmap> => Promise.resolve(pixels(k));
  const compose = (only?: ReadonlySet<number>): Promise<Bitmap> => composed(psd, taken, only);
  return { ...psd, pixels: taken, compose, merged: async () => merged() ?? (await compose()) };
}

/** Throws ReadError with a sentence. */
export async function openOra(bytes: Uint8Array): Promise<OpenLayered> {
  const { layers: raw, merged, ...ora } = readOra(bytes, defaultLimits);
  const notes = [...ora.notes];
  const layers: PictureLayer[] = [];
  let depth = 8;
  for (const { x, y, png, ...entry } of raw) {
    const meta =
      png &&
      (await sharp(png, { limitInputPixels: MOST_PIXELS })
        .metadata()
        .catch(() => undefined));
    if (png && (!meta || meta.width * meta.height > MOST_PIXELS))
      notes.push(`The pixels of layer “${entry.name}” cannot be read.`);
    if (meta?.depth === 'ushort') depth = 16;
    layers.push({
      ...entry,
      box: meta && meta.width * meta.height <= MOST_PIXELS ? [x, y, x + meta.width, y + meta.height] : undefined,
    });
  }
  const pixels = async (k: number): Promise<Bitmap> => {
    const png = raw[k]?.png;
    if (!png || !layers[k]?.box) throw new ReadError('The layer has no pixels.');
    return decoded(png, `The pixels of layer “${layers[k].name}” are damaged.`);
  };
  const all = { ...ora, layers };
  const compose = (only?: ReadonlySet<number>): Promise<Bitmap> => composed(all, pixels, only);
  return {
    ...all,
    notes,
    depth,
    pixels,
    compose,
    merged: async () =>
      merged ? decoded(merged, 'The picture as a whole is damaged.').catch(() => compose()) : compose(),
  };
}

async function decoded(png: Uint8Array, sentence: string): Promise<Bitmap> {
  const { data, info } = await sharp(png, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw new ReadError(sentence);
    });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

const operators: Readonly<Record<string, Blend>> = {
  multiply: 'multiply',
  screen: 'screen',
  overlay: 'overlay',
  darken: 'darken',
  lighten: 'lighten',
  'colour dodge': 'colour-dodge',
  'colour burn': 'colour-burn',
  'hard light': 'hard-light',
  'soft light': 'soft-light',
  difference: 'difference',
  exclusion: 'exclusion',
  plus: 'add',
  'cut by what it covers': 'dest-in',
  'cut out what it covers': 'dest-out',
  'within what is beneath': 'atop',
};

type Composed = Pick<LayeredPicture, 'width' | 'height' | 'layers'>;

/** Groups are laid together first, then over what is beneath. Ways of blending that are not known are laid plainly. */
async function composed(
  of: Composed,
  pixels: (k: number) => Promise<Bitmap>,
  only: ReadonlySet<number> | undefined,
): Promise<Bitmap> {
  const { width, height, layers } = of;
  const wanted = (k: number): boolean => (only ? only.has(k) : !unseen(layers, k));
  const drawnLayer = async (
    k: number,
  ): Promise<(Bitmap & { readonly left?: number; readonly top?: number }) | undefined> => {
    const { kind, box } = layers[k] as PictureLayer;
    if (kind === 'group') return holdsAny(layers, k, wanted) ? { width, height, data: await together(k) } : undefined;
    return box && wanted(k) ? onCanvas(await pixels(k), box, width, height) : undefined;
  };
  const together = async (group: number): Promise<Buffer> => {
    const over: OverlayOptions[] = [];
    for (let k = layers.length - 1; k >= 0; k--) {
      const layer = layers[k] as PictureLayer;
      if (layer.group !== group) continue;
      const drawn = await drawnLayer(k);
      if (drawn)
        over.push({
          input: faded(drawn.data, layer.opacity),
          raw: { width: drawn.width, height: drawn.height, channels: 4 },
          left: drawn.left ?? 0,
          top: drawn.top ?? 0,
          blend: operators[layer.blend] ?? 'over',
        });
    }
    const ground = { create: { width, height, channels: 4 as const, background: { r: 0, g: 0, b: 0, alpha: 0 } } };
    return sharp(ground).composite(over).raw().toBuffer();
  };
  const data = await together(-1);
  return { width, height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

function holdsAny(layers: readonly PictureLayer[], group: number, wanted: (k: number) => boolean): boolean {
  return layers.some((l, k) => l.group === group && (l.kind === 'group' ? holdsAny(layers, k, wanted) : wanted(k)));
}

const faded = (data: Uint8Array | Uint8ClampedArray, opacity: number): Buffer => {
  const out = Buffer.from(data);
  if (opacity < 1) for (let p = 3; p < out.length; p += 4) out[p] = Math.round((out[p] as number) * opacity);
  return out;
};

/** What of a layer lies on the canvas; undefined where nothing does. */
function onCanvas(
  bitmap: Bitmap,
  box: readonly number[],
  width: number,
  height: number,
): (Bitmap & { left: number; top: number }) | undefined {
  const [x = 0, y = 0] = box;
  const left = Math.max(0, x);
  const top = Math.max(0, y);
  const w = Math.min(width, x + bitmap.width) - left;
  const h = Math.min(height, y + bitmap.height) - top;
  if (w <= 0 || h <= 0) return undefined;
  if (w === bitmap.width && h === bitmap.height) return { ...bitmap, left, top };
  const data = new Uint8Array(4 * w * h);
  for (let row = 0; row < h; row++) {
    const from = 4 * ((top - y + row) * bitmap.width + left - x);
    data.set(bitmap.data.subarray(from, from + 4 * w), 4 * row * w);
  }
  return { width: w, height: h, data, left, top };
}

const png = (bitmap: Bitmap): Sharp =>
  sharp(bitmap.data, { raw: { width: bitmap.width, height: bitmap.height, channels: 4 } });

/** A layer of a picture that is being made: its pixels as PNG, with the place of their upper left corner. */
export interface NewLayer extends Pick<PictureLayer, 'name' | 'group' | 'hidden' | 'opacity' | 'blend'> {
  readonly pixels?: { readonly png: Uint8Array; readonly x: number; readonly y: number };
}

/** A new layered picture as OpenRaster; layers from the top. Throws ReadError for pixels that are no PNG. */
export async function makeOra(
  width: number,
  height: number,
  density: number | undefined,
  layers: readonly NewLayer[],
): Promise<Uint8Array> {
  const decodedLayers = await Promise.all(
    layers.map(async (l) => l.pixels && decoded(l.pixels.png, `The pixels of layer “${l.name}” are damaged.`)),
  );
  const entries = layers.map(({ pixels, ...l }, k): PictureLayer => ({
    ...l,
    key: undefined,
    kind: pixels ? 'layer' : 'group',
    print: '',
    box: pixels && [
      pixels.x,
      pixels.y,
      pixels.x + (decodedLayers[k]?.width ?? 0),
      pixels.y + (decodedLayers[k]?.height ?? 0),
    ],
  }));
  const merged = await composed(
    { width, height, layers: entries },
    (k) => Promise.resolve(decodedLayers[k] as Bitmap),
    undefined,
  );
  return packed({ width, height, density, layers: layers.map((l) => ({ ...l, pixels: l.pixels })) }, merged);
}

/**
 * Any layered picture as OpenRaster. Effects, and ways of blending that OpenRaster does not know, are in the picture
 * as a whole only.
 */
export async function asOra(picture: OpenLayered): Promise<Uint8Array> {
  const layers: LayerToWrite[] = [];
  const kept = new Map<number, number>();
  for (const [k, { name, group, hidden, opacity, blend, kind, box }] of picture.layers.entries()) {
    // Layers that only adjust others have no place in the format.
    if (kind === 'layer' && !box) continue;
    kept.set(k, layers.length);
    layers.push({
      name,
      hidden,
      opacity,
      blend,
      group: kept.get(group) ?? -1,
      pixels: box && {
        png: new Uint8Array(
          await png(await picture.pixels(k))
            .png()
            .toBuffer(),
        ),
        x: box[0],
        y: box[1],
      },
    });
  }
  return packed(
    { width: picture.width, height: picture.height, density: picture.density, layers },
    await picture.merged(),
  );
}

async function packed(of: Omit<OraToWrite, 'merged' | 'thumbnail'>, merged: Bitmap): Promise<Uint8Array> {
  const thumbnail = await png(merged).resize(256, 256, { fit: 'inside', withoutEnlargement: true }).png().toBuffer();
  return writeOra({
    ...of,
    merged: new Uint8Array(await png(merged).png().toBuffer()),
    thumbnail: new Uint8Array(thumbnail),
  });
}
