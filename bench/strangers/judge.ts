/**
 * Whether two drawings look the same, by a renderer that Ovrel itself does not use. It shares no code with what it
 * judges, or it would have the same faults.
 */
import sharp from 'sharp';

export interface Look {
  readonly width: number;
  readonly height: number;
  readonly data: Buffer;
}

/** Longer side in pixels. */
const SIDE = 600;

export async function lookOf(svg: Buffer): Promise<Look> {
  const { data, info } = await sharp(svg, { density: 96, limitInputPixels: 400_000_000 })
    .resize(SIDE, SIDE, { fit: 'inside' })
    .flatten({ background: '#ffffff' })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** Steps of a channel, and share of the contrast around, that two drawings of the same may differ by. */
const STEPS = 8;
const EDGE = 0.4;

/** Pixels that no neighbour in the other explains; infinite for another shape of page. */
export function differing(a: Look, b: Look): number {
  if (Math.abs(a.width - b.width) > 1 || Math.abs(a.height - b.height) > 1) return Infinity;
  const width = Math.min(a.width, b.width);
  const height = Math.min(a.height, b.height);
  let count = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) if ([0, 1, 2].some((c) => differs(a, b, x, y, c))) count++;
  return count;
}

function differs(a: Look, b: Look, x: number, y: number, channel: number): boolean {
  const at = ({ data, width }: Look, u: number, v: number): number => data[3 * (v * width + u) + channel] as number;
  const [p, q] = [at(a, x, y), at(b, x, y)];
  if (Math.abs(p - q) <= STEPS) return false;
  let [leastA, mostA, leastB, mostB] = [255, 0, 255, 0];
  for (let v = y - 1; v <= y + 1; v++)
    for (let u = x - 1; u <= x + 1; u++) {
      const [s, t] = [at(a, u, v), at(b, u, v)];
      leastA = Math.min(leastA, s);
      mostA = Math.max(mostA, s);
      leastB = Math.min(leastB, t);
      mostB = Math.max(mostB, t);
    }
  const within = STEPS + EDGE * Math.max(mostA - leastA, mostB - leastB);
  return p < leastB - within || p > mostB + within || q < leastA - within || q > mostA + within;
}

/** Pixels that are not exactly the same. */
export function unequal(a: Look, b: Look): number {
  if (a.width !== b.width || a.height !== b.height) return Infinity;
  let count = 0;
  for (let p = 0; p < a.data.length; p += 3)
    if ([0, 1, 2].some((c) => Math.abs((a.data[p + c] as number) - (b.data[p + c] as number)) > STEPS)) count++;
  return count;
}
