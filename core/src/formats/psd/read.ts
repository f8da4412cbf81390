/** The published layered format of image editors, by `ag-psd`. Pixels are taken out when they are asked for. */
import {
  getCompositeImageData,
  getLayerImageData,
  getLayerMaskImageData,
  initializeCanvas,
  readPsd as parse,
  type Layer,
  type PixelData,
} from 'ag-psd';
import { Hash, hashBytes } from '../../geometry/hash.ts';
import { ReadError } from '../../model/problem.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { MOST_LAYERS, type PictureLayer } from '../../model/layers.ts';

export interface Psd {
  readonly width: number;
  readonly height: number;
  readonly density: number | undefined;
  /** Bits a channel. */
  readonly depth: number;
  readonly layers: readonly PictureLayer[];
  readonly notes: readonly string[];
  /** As large as the layer's box, its mask applied. */
  readonly pixels: (layer: number) => Bitmap;
  /** As the program that wrote it saw it; undefined where it was not saved. */
  readonly merged: () => Bitmap | undefined;
}

const blends: Readonly<Record<string, string>> = {
  'pass through': 'through',
  'color burn': 'colour burn',
  'color dodge': 'colour dodge',
  'linear dodge': 'plus',
  color: 'colour',
  'darker color': 'darker colour',
  'lighter color': 'lighter colour',
};
const MEMORY = 1024 ** 3;

initializeCanvas(
  () => {
    throw new Error('there is no canvas here');
  },
  (width, height) =>
    ({ width, height, data: new Uint8ClampedArray(4 * width * height), colorSpace: 'srgb' }) as unknown as ImageData,
);

/** Throws ReadError with a sentence. */
export function readPsd(bytes: Uint8Array): Psd {
  const psd = tried(
    () =>
      parse(bytes, {
        useRawData: true,
        useImageData: true,
        skipThumbnail: true,
        skipLinkedFilesData: true,
        totalMemoryLimit: MEMORY,
        logMissingFeatures: false,
      }),
    'The layered picture cannot be read',
  );
  const found: { layer: Layer; entry: PictureLayer }[] = [];
  const notes: string[] = [];
  let effects = 0;
  const walk = (children: readonly Layer[], group: number): void => {
    // Kept from the bottom; listed from the top.
    for (const layer of [...children].reverse()) {
      if (found.length >= MOST_LAYERS)
        throw new ReadError(
          `The picture has more than ${MOST_LAYERS.toLocaleString('en')} layers, which is more than Ovrel looks into.`,
        );
      const kind = layer.children ? ('group' as const) : ('layer' as const);
      const { left = 0, top = 0, right = 0, bottom = 0 } = layer;
      const mode = layer.blendMode ?? 'normal';
      const words = layer.text?.text;
      if (layer.effects && Object.values(layer.effects).some((e) => e !== undefined && e !== false)) effects++;
      found.push({
        layer,
        entry: {
          key: layer.id === undefined ? undefined : String(layer.id),
          kind,
          name: layer.name?.trim() || (kind === 'group' ? 'group without a name' : 'layer without a name'),
          group,
          hidden: layer.hidden ?? false,
          opacity: layer.opacity ?? 1,
          blend: blends[mode] ?? mode,
          box: kind === 'layer' && right > left && bottom > top ? [left, top, right, bottom] : undefined,
          print: printOf(layer),
          ...(words === undefined ? {} : { words: words.slice(0, 2000) }),
        },
      });
      if (layer.children) walk(layer.children, found.length - 1);
    }
  };
  walk(psd.children ?? [], -1);
  if (effects)
    notes.push(
      `${effects} of its layers ${effects === 1 ? 'has' : 'have'} effects (shadows, outlines …), which are seen in the whole picture but not where a layer is shown alone.`,
    );
  const resolution = psd.imageResources?.resolutionInfo;
  const dpi =
    resolution && (resolution.horizontalResolutionUnit === 'PPCM' ? 2.54 : 1) * resolution.horizontalResolution;
  return {
    width: psd.width,
    height: psd.height,
    density: dpi && dpi > 30 && dpi !== 72 ? dpi : undefined,
    depth: psd.bitsPerChannel ?? 8,
    layers: found.map((f) => f.entry),
    notes,
    pixels: (k) => {
      const layer = found[k]?.layer;
      const data =
        layer && tried(() => getLayerImageData(layer), `The pixels of layer “${layer.name ?? ''}” are damaged`);
      if (!layer || !data) throw new ReadError('The layer has no pixels.');
      return masked(layer, eightBits(data));
    },
    merged: () => {
      const data = tried(() => getCompositeImageData(psd), 'The picture as a whole is damaged');
      return data && eightBits(data);
    },
  };
}

function tried<T>(work: () => T, sentence: string): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof ReadError) throw error;
    const why = error instanceof Error ? error.message : '';
    const mode = /Color mode not supported: (\w+)/.exec(why)?.[1];
    if (mode)
      throw new ReadError(
        `${sentence}: it is in the colour model ${mode === 'CMYK' ? mode : mode.toLowerCase()}, which Ovrel does not read in this format.`,
      );
    if (/memory limit/i.test(why))
      throw new ReadError(`${sentence}: it would take more than ${MEMORY / 1024 ** 2} MB.`);
    throw new ReadError(`${sentence}: the file is damaged or ends too early.`);
  }
}

function printOf({ rawData, mask, text, adjustment, vectorFill }: Layer): string {
  const hash = new Hash();
  for (const channel of rawData?.channels ?? []) hash.int(channel.id).text(channel.data ? hashBytes(channel.data) : '');
  return hash
    .text(mask ? `${mask.left} ${mask.top} ${mask.right} ${mask.bottom} ${mask.disabled}` : '')
    .text(text?.text ?? '')
    .text(JSON.stringify([adjustment, vectorFill]) ?? '')
    .digest();
}

function eightBits({ width, height, data }: PixelData): Bitmap {
  if (data instanceof Uint8Array || data instanceof Uint8ClampedArray) return { width, height, data };
  const scale = data instanceof Uint16Array ? 255 / 65_535 : 255;
  const out = new Uint8ClampedArray(data.length);
  for (let k = 0; k < out.length; k++) out[k] = (data[k] as number) * scale;
  return { width, height, data: out };
}

function masked(layer: Layer, bitmap: Bitmap): Bitmap {
  const { mask } = layer;
  const seen = mask && !mask.disabled ? getLayerMaskImageData(layer) : undefined;
  if (!mask || !seen) return bitmap;
  const grey = eightBits(seen);
  const { left = 0, top = 0 } = mask;
  const data = Uint8ClampedArray.from(bitmap.data);
  const dx = (layer.left ?? 0) - left;
  const dy = (layer.top ?? 0) - top;
  for (let y = 0; y < bitmap.height; y++) {
    for (let x = 0; x < bitmap.width; x++) {
      const u = x + dx;
      const v = y + dy;
      const inside = u >= 0 && v >= 0 && u < grey.width && v < grey.height;
      const p = 4 * (y * bitmap.width + x) + 3;
      data[p] =
        ((data[p] as number) * (inside ? (grey.data[4 * (v * grey.width + u)] as number) : (mask.defaultColor ?? 0))) /
        255;
    }
  }
  return { ...bitmap, data };
}
