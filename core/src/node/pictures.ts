/** Decodes pictures, colour-managed and upright, into sRGB. */
import sharp, { type Metadata } from 'sharp';
import type { Card } from '../model/card.ts';
import type { OpenLayered, Pictures } from '../model/format.ts';
import { MOST_PIXELS, type Picture, type PictureFacts } from '../model/picture.ts';
import { ReadError } from '../model/problem.ts';
import { words, type Bitmap } from '../raster/bitmap.ts';
import { fitted } from './drawings.ts';
import { profileName } from './profile.ts';

const orientations: Readonly<Record<number, string>> = {
  2: 'mirrored',
  3: 'upside down',
  4: 'mirrored, upside down',
  5: 'mirrored, lying',
  6: 'lying',
  7: 'mirrored, lying',
  8: 'lying',
};

const options = { limitInputPixels: MOST_PIXELS, unlimited: false, sequentialRead: true } as const;

/** What the file says of the picture, without decoding it. Throws ReadError with a sentence. */
export async function lookAtPicture(bytes: Uint8Array, card: Card): Promise<PictureFacts> {
  const meta = await sharp(bytes, { ...options, failOn: 'none', limitInputPixels: false })
    .metadata()
    .catch((error: unknown) => {
      throw new ReadError(`The picture cannot be read: ${reasonOf(error)}.`);
    });
  const { width, height } = meta.autoOrient;
  refuseTooLarge(width, height);
  const notes: string[] = [];
  const orientation = orientations[meta.orientation ?? 0];
  if (orientation) notes.push(`The file says that it was taken ${orientation}; it is shown upright.`);
  const pages = card.pages ? (meta.pages ?? 1) : 1;
  if (!card.pages && (meta.pages ?? 1) > 1) notes.push(`It has ${meta.pages} frames; the first is shown.`);
  const profile = meta.icc ? profileName(meta.icc) : undefined;
  if (meta.icc && profile === undefined) notes.push('Its colour profile is damaged; the colours are taken for sRGB.');
  return {
    ...ofCard(card),
    width,
    height,
    depth: depthOf(meta),
    density: saidDensity(meta.density),
    profile,
    colours: meta.space ?? 'srgb',
    transparent: meta.hasAlpha ?? false,
    ...(meta.isPalette ? { palette: true } : {}),
    pages,
    notes,
  };
}

const ofCard = ({ id, lossy, pages }: Card): Pick<Picture, 'savedAs' | 'lossy' | 'pageWord'> => ({
  savedAs: id.toUpperCase(),
  lossy: lossy ?? false,
  pageWord: pages === 'pages' ? 'Page' : 'Frame',
});

/** Throws ReadError for pictures of more pixels than are looked into. */
function refuseTooLarge(width: number, height: number): void {
  if (width * height <= MOST_PIXELS) return;
  throw new ReadError(
    `The picture has ${Math.round((width * height) / 1e6).toLocaleString('en')} megapixels, which is more than the ${MOST_PIXELS / 1e6} that Ovrel looks into.`,
    undefined,
    'too-large',
  );
}

/** Bits a channel, by how they are stored where that is more than a byte. */
const storedDepths: Readonly<Record<string, number>> = { ushort: 16, short: 16, uint: 32, float: 32 };

const depthOf = ({ depth, bitsPerSample }: Metadata): number =>
  storedDepths[depth ?? ''] ?? Math.max(8, bitsPerSample ?? 8);

export function layeredFacts(layered: OpenLayered, card: Card): PictureFacts {
  refuseTooLarge(layered.width, layered.height);
  return {
    ...ofCard(card),
    width: layered.width,
    height: layered.height,
    depth: layered.depth,
    density: saidDensity(layered.density),
    profile: undefined,
    colours: 'srgb',
    transparent: true,
    pages: 1,
    notes: layered.notes,
    layered,
  };
}

/** A layered picture as one page. */
export async function openedLayered(layered: OpenLayered, card: Card): Promise<Pictures> {
  const { width: _w, height: _h, ...facts } = layeredFacts(layered, card);
  const page = async (_k: number, side?: number): Promise<Picture> => {
    const bitmap = await layered.merged();
    const picture = { ...facts, bitmap, transparent: seesThrough(bitmap.data) };
    return side === undefined ? picture : { ...picture, bitmap: await fitted(bitmap, side) };
  };
  return { count: 1, page, sketch: () => Promise.resolve(undefined) };
}

/** The pages or frames of a picture's file, each decoded when it is asked for. */
export async function openedPictures(bytes: Uint8Array, card: Card): Promise<Pictures> {
  const facts = await lookAtPicture(bytes, card);
  return {
    count: facts.pages,
    page: async (k, side) => {
      const picture = await decodedPage(bytes, facts, k);
      return side === undefined ? picture : { ...picture, bitmap: await fitted(picture.bitmap, side) };
    },
    sketch: (k, side) => sketchOfPage(bytes, k, side),
  };
}

/** Programs write 72, or a pixel a millimetre, where nobody said anything. */
const saidDensity = (density: number | undefined): number | undefined =>
  density === undefined || density === 72 || density < 30 ? undefined : density;

/** Throws ReadError where nothing can be decoded; a damaged picture comes as far as it goes, with a note. */
async function decodedPage(bytes: Uint8Array, facts: PictureFacts, page: number): Promise<Picture> {
  const { width: _w, height: _h, ...said } = facts;
  const decode = (failOn: 'error' | 'none'): Promise<Bitmap> => decoded(bytes, page, failOn);
  const first = await decode('error').catch((error: unknown) => reasonOf(error));
  const bitmap =
    typeof first === 'string'
      ? await decode('none').catch(() => {
          throw new ReadError(`The picture cannot be decoded: ${first}.`);
        })
      : first;
  const picture = { ...said, bitmap, transparent: said.transparent && seesThrough(bitmap.data) };
  return typeof first === 'string' ? withDamage(picture, first) : picture;
}

async function decoded(bytes: Uint8Array, page: number, failOn: 'error' | 'none'): Promise<Bitmap> {
  const { data, info } = await sharp(bytes, { ...options, failOn, page })
    .autoOrient()
    .toColourspace('srgb')
    .ensureAlpha()
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

function withDamage(picture: Picture, reason: string): Picture {
  const { height } = picture.bitmap;
  const lostFrom = firstLost(picture.bitmap);
  const share = Math.round((100 * (height - lostFrom)) / height);
  const lost =
    share > 0
      ? `About ${share} % at its lower end could not be decoded; it is shown hatched.`
      : 'Some of it may be wrong.';
  const damage = `The picture is damaged (${reason}). ${lost}`;
  return { ...picture, damage, notes: [...picture.notes, damage], ...(share > 0 ? { lostFrom } : {}) };
}

function seesThrough(data: Picture['bitmap']['data']): boolean {
  for (let p = 3; p < data.length; p += 4) if (data[p] !== 255) return true;
  return false;
}

const DAMAGED = 'its data are damaged';

/** What the decoder complained of, in words that follow "the picture cannot be read". */
function reasonOf(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  const first = message.split('\n').find(Boolean) ?? DAMAGED;
  if (/premature end|truncat|read error|unexpected end/i.test(first)) return 'the file ends too early';
  if (/unsupported image format|corrupt header/i.test(first)) return 'its header is damaged';
  const said = first.replace(/^(Input (buffer|file)( has|: )?|\w+: )/i, '').replace(/\.$/, '');
  return said.slice(0, 120) || DAMAGED;
}

/** The row below which all is one colour, as decoders fill what is missing. */
function firstLost(bitmap: Picture['bitmap']): number {
  const { width, height } = bitmap;
  const pixels = words(bitmap);
  const fill = pixels[pixels.length - 1];
  let y = height - 1;
  while (y >= 0 && pixels.subarray(y * width, (y + 1) * width).every((v) => v === fill)) y--;
  return y + 1;
}

/**
 * Lightness of one page, from 0, on a square of `side` × `side`, whatever its shape; undefined where it cannot be
 * decoded.
 */
async function sketchOfPage(bytes: Uint8Array, page: number, side: number): Promise<Uint8Array | undefined> {
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

/** Lossless, without what the file said of itself; with `side`, no larger than that. */
export async function encodePng({ data, width, height }: Picture['bitmap'], side?: number): Promise<Uint8Array> {
  const pixels = sharp(data, { raw: { width, height, channels: 4 } });
  const sized = side === undefined ? pixels : pixels.resize(side, side, { fit: 'inside', withoutEnlargement: true });
  return new Uint8Array(await sized.png({ compressionLevel: 4 }).toBuffer());
}
