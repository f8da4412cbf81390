/** Places of two pictures cut out, for reports. */
import sharp from 'sharp';
import type { Comparison } from '../contract/comparison.ts';
import type { Bitmap } from '../raster/bitmap.ts';
import type { Content } from '../kinds/content.ts';
import { modelOf } from '../kinds/conversions.ts';

export interface PictureCrop {
  /** Id of the cause. */
  readonly cause: string;
  /** PNG; undefined where that side has nothing there. */
  readonly a: Uint8Array | undefined;
  readonly b: Uint8Array | undefined;
}

/** Longer side of a crop in pixels. */
const SIDE = 900;

type Box = readonly [number, number, number, number];

/** For the heaviest causes with places, these places before and after, with some of what is around. */
export async function picturesCropped(
  a: Content,
  b: Content,
  { causes, changes }: Pick<Comparison, 'causes' | 'changes'>,
  most: number,
): Promise<PictureCrop[]> {
  const placed = causes.filter((c) => c.changes.length).slice(0, most);
  if (!placed.length) return [];
  const [pa, pb] = [await firstPage(a), await firstPage(b)];
  const byId = new Map(changes.map((c) => [c.id, c]));
  const out: PictureCrop[] = [];
  for (const cause of placed) {
    const of = cause.changes.flatMap((id) => byId.get(id) ?? []);
    const boxA = around(
      of.map((c) => c.boxA ?? c.boxB),
      pa,
    );
    const boxB = around(
      of.map((c) => c.boxB ?? c.boxA),
      pb,
    );
    out.push({ cause: cause.id, a: boxA && (await cut(pa, boxA)), b: boxB && (await cut(pb, boxB)) });
  }
  return out;
}

const firstPage = async (content: Content): Promise<Bitmap> =>
  (await (await modelOf(content, 'picture')).page(0)).bitmap;

function around(boxes: readonly (Box | null)[], { width, height }: Bitmap): Box | undefined {
  const all = boxes.filter((b): b is Box => b !== null);
  if (!all.length) return undefined;
  const [x0, y0, x1, y1] = [
    Math.min(...all.map((b) => b[0])),
    Math.min(...all.map((b) => b[1])),
    Math.max(...all.map((b) => b[2])),
    Math.max(...all.map((b) => b[3])),
  ];
  const room = Math.max(24, 0.4 * Math.max(x1 - x0, y1 - y0));
  const box: Box = [
    Math.max(0, Math.floor(x0 - room)),
    Math.max(0, Math.floor(y0 - room)),
    Math.min(width, Math.ceil(x1 + room)),
    Math.min(height, Math.ceil(y1 + room)),
  ];
  return box[2] > box[0] && box[3] > box[1] ? box : undefined;
}

const cut = async ({ data, width, height }: Bitmap, [x0, y0, x1, y1]: Box): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .extract({ left: x0, top: y0, width: x1 - x0, height: y1 - y0 })
      .flatten({ background: '#ffffff' })
      .resize(SIDE, SIDE, { fit: 'inside', withoutEnlargement: true })
      .png()
      .toBuffer(),
  );
