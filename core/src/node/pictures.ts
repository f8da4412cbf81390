/** Decodes pictures, colour-managed and upright, into sRGB. */
import sharp, { type OutputInfo } from 'sharp';
import { ReadError } from '../model/problem.ts';
import { words } from '../raster/bitmap.ts';
import { layeredFormats, MOST_PIXELS, pagesOf, type Picture } from '../raster/picture.ts';
import { openLayered, type OpenLayered } from './layered.ts';

const orientations: Readonly<Record<number, string>> = {
  2: 'mirrored',
  3: 'upside down',
  4: 'mirrored, upside down',
  5: 'mirrored, lying',
  6: 'lying',
  7: 'mirrored, lying',
  8: 'lying',
};

export interface PictureFacts extends Omit<Picture, 'bitmap'> {
  readonly width: number;
  readonly height: number;
}

const options = { limitInputPixels: MOST_PIXELS, unlimited: false, sequentialRead: true } as const;

/** What the file says of the picture, without decoding it. Throws ReadError with a sentence. */
export async function lookAtPicture(bytes: Uint8Array, format: string): Promise<PictureFacts> {
  if (layeredFormats.has(format)) {
    const layered = await openLayered(bytes, format);
    return { ...layeredFacts(layered, format), width: layered.width, height: layered.height };
  }
  const meta = await sharp(bytes, { ...options, failOn: 'none', limitInputPixels: false })
    .metadata()
    .catch((error: unknown) => {
      throw new ReadError(`The picture cannot be read: ${reasonOf(error)}.`);
    });
  const width = meta.autoOrient.width;
  const height = meta.autoOrient.height;
  const notes: string[] = [];
  if (width * height > MOST_PIXELS)
    throw new ReadError(
      `The picture has ${Math.round((width * height) / 1e6).toLocaleString('en')} megapixels, which is more than the ${MOST_PIXELS / 1e6} that Ovrel looks into.`,
    );
  if (meta.orientation && orientations[meta.orientation])
    notes.push(`The file says that it was taken ${orientations[meta.orientation]}; it is shown upright.`);
  const depth =
    meta.depth === 'ushort' || meta.depth === 'short'
      ? 16
      : meta.depth === 'uint' || meta.depth === 'float'
        ? 32
        : meta.bitsPerSample && meta.bitsPerSample > 8
          ? meta.bitsPerSample
          : 8;
  const pages = meta.pages ?? 1;
  if (pages > 1 && pagesOf({ format, pages }) === 1) notes.push(`It has ${pages} frames; the first is shown.`);
  const profile = meta.icc ? profileName(meta.icc) : undefined;
  if (meta.icc && profile === undefined) notes.push('Its colour profile is damaged; the colours are taken for sRGB.');
  return {
    width,
    height,
    format,
    depth,
    density: saidDensity(meta.density),
    profile,
    colours: meta.space ?? 'srgb',
    transparent: meta.hasAlpha ?? false,
    ...(meta.isPalette ? { palette: true } : {}),
    pages,
    notes,
  };
}

const layeredFacts = (layered: OpenLayered, format: string): Omit<Picture, 'bitmap'> => ({
  format,
  depth: layered.depth,
  density: saidDensity(layered.density),
  profile: undefined,
  colours: 'srgb',
  transparent: true,
  pages: 1,
  notes: layered.notes,
  layered,
});

/** Programs write 72, or a pixel a millimetre, where nobody said anything. */
const saidDensity = (density: number | undefined): number | undefined =>
  density === undefined || density === 72 || density < 30 ? undefined : density;

/** `page` of those that have several. Throws ReadError where nothing can be decoded; a damaged picture comes as far as it goes, with a note. */
export async function decodePicture(bytes: Uint8Array, format: string, page = 0): Promise<Picture> {
  if (layeredFormats.has(format)) {
    const layered = await openLayered(bytes, format);
    const bitmap = await layered.merged();
    return { ...layeredFacts(layered, format), transparent: seesThrough(bitmap.data), bitmap };
  }
  const { width: _w, height: _h, notes, ...facts } = await lookAtPicture(bytes, format);
  let damage: string | undefined;
  const whole = (failOn: 'error' | 'none'): Promise<{ data: Buffer; info: OutputInfo }> =>
    sharp(bytes, { ...options, failOn, page })
      .autoOrient()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
  const { data, info } = await whole('error')
    .catch((error: unknown) => {
      damage = reasonOf(error);
      return whole('none');
    })
    .catch(() => {
      throw new ReadError(`The picture cannot be decoded: ${damage ?? 'its data are damaged'}.`);
    });
  const bitmap = {
    width: info.width,
    height: info.height,
    data: new Uint8Array(data.buffer, data.byteOffset, data.length),
  };
  const transparent = facts.transparent && seesThrough(bitmap.data);
  if (damage === undefined) return { ...facts, transparent, bitmap, notes };
  const lostFrom = firstLost(bitmap);
  const share = Math.round((100 * (bitmap.height - lostFrom)) / bitmap.height);
  return {
    ...facts,
    transparent,
    bitmap,
    ...(share > 0 ? { lostFrom } : {}),
    notes: [
      ...notes,
      `The picture is damaged (${damage}). ${share > 0 ? `About ${share} % at its lower end could not be decoded; it is shown hatched.` : 'Some of it may be wrong.'}`,
    ],
  };
}

function seesThrough(data: Picture['bitmap']['data']): boolean {
  for (let p = 3; p < data.length; p += 4) if (data[p] !== 255) return true;
  return false;
}

const reasonOf = (error: unknown): string => {
  const first =
    (error instanceof Error ? error.message : String(error)).split('\n').find(Boolean) ?? 'its data are damaged';
  return /premature end|truncat|read error|unexpected end/i.test(first)
    ? 'the file ends too early'
    : /unsupported image format|corrupt header/i.test(first)
      ? 'its header is damaged'
      : first
          .replace(/^(Input (buffer|file)( has|: )?|\w+: )/i, '')
          .replace(/\.$/, '')
          .slice(0, 120) || 'its data are damaged';
};

/** The row below which all is one colour, as decoders fill what is missing. */
function firstLost(bitmap: Picture['bitmap']): number {
  const { width, height } = bitmap;
  const pixels = words(bitmap);
  const fill = pixels[pixels.length - 1];
  let y = height - 1;
  while (y >= 0 && pixels.subarray(y * width, (y + 1) * width).every((v) => v === fill)) y--;
  return y + 1;
}

/** Lightness of one page, from 0, on a square of `side` × `side`, whatever its shape; undefined where it cannot be decoded. */
export async function sketchOfPage(bytes: Uint8Array, page: number, side: number): Promise<Uint8Array | undefined> {
  const small = sharp(bytes, { ...options, failOn: 'none', page })
    .autoOrient()
    .flatten({ background: '#ffffff' })
    .toColourspace('b-w')
    .resize(side, side, { fit: 'fill', kernel: 'cubic' })
    .extractChannel(0)
    .raw({ depth: 'uchar' });
  return small.toBuffer().then(
    (data) => new Uint8Array(data),
    () => undefined,
  );
}

/** As it is shown: what could not be decoded is hatched. */
export function hatched({ bitmap, lostFrom }: Pick<Picture, 'bitmap' | 'lostFrom'>): Picture['bitmap'] {
  if (lostFrom === undefined) return bitmap;
  const { width, height } = bitmap;
  const data = Uint8Array.from(bitmap.data);
  const apart = Math.max(12, Math.round(height / 40));
  const thick = Math.max(2, Math.round(apart / 6));
  for (let y = lostFrom; y < height; y++)
    for (let x = 0; x < width; x++)
      data.set((x + y) % apart < thick ? [180, 83, 9, 255] : [244, 246, 247, 255], 4 * (y * width + x));
  return { width, height, data };
}

/** Lossless, without what the file said of itself. */
export const encodePng = async ({ data, width, height }: Picture['bitmap']): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .png({ compressionLevel: 4 })
      .toBuffer(),
  );

/** The name in an ICC profile (ISO 15076-1, tag “desc”); undefined for one that is damaged. */
export function profileName(icc: Uint8Array): string | undefined {
  const view = new DataView(icc.buffer, icc.byteOffset, icc.byteLength);
  if (icc.length < 132 || view.getUint32(36) !== 0x61637370) return undefined;
  const count = Math.min(100, view.getUint32(128));
  for (let k = 0; k < count && 144 + 12 * k <= icc.length; k++) {
    if (view.getUint32(132 + 12 * k) !== 0x64657363) continue;
    const at = view.getUint32(136 + 12 * k);
    const size = view.getUint32(140 + 12 * k);
    if (at + size > icc.length || size < 12) return undefined;
    const text =
      view.getUint32(at) === 0x6d6c7563
        ? utf16(icc, view, at)
        : new TextDecoder('latin1').decode(
            icc.subarray(at + 12, at + 12 + Math.min(size - 12, view.getUint32(at + 8))),
          );
    return text?.split('\0')[0]?.trim().slice(0, 80) ?? 'without a name';
  }
  return 'without a name';
}

/** The first text of a multi-language list. */
function utf16(icc: Uint8Array, view: DataView, at: number): string | undefined {
  if (at + 28 > icc.length || !view.getUint32(at + 8)) return undefined;
  const length = view.getUint32(at + 20);
  const from = at + view.getUint32(at + 24);
  return from + length <= icc.length
    ? new TextDecoder('utf-16be').decode(icc.subarray(from, from + length))
    : undefined;
}
