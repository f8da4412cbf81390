/**
 * A photograph of the old landing stage, painted by arithmetic so that it is nobody's: fog over water, a pier on
 * piles, a boat, a bollard.
 */
import sharp from 'sharp';

export interface Shot {
  /** Places painted over by hand, destructively. */
  readonly retouch?: 'boat' | 'everything';
  readonly brighter?: number;
  /** Pixels cut off at the left, top, right and bottom. */
  readonly crop?: readonly [number, number, number, number];
  readonly turned?: number;
  readonly quality: number;
}

const WIDTH = 1440;
const HEIGHT = 960;
const HORIZON = 430;

/** Numbers that look random and are the same every time. */
function noise(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 374_761_393) + Math.imul(y, 668_265_263) + Math.imul(seed, 974_634_777);
  h = Math.imul(h ^ (h >>> 13), 1_274_126_177);
  return ((h ^ (h >>> 16)) >>> 0) / 4_294_967_296;
}

/** Noise of a given grain, smooth between its points. */
function clouds(x: number, y: number, grain: number, seed: number): number {
  const gx = Math.floor(x / grain);
  const gy = Math.floor(y / grain);
  const fx = x / grain - gx;
  const fy = y / grain - gy;
  const sx = fx * fx * (3 - 2 * fx);
  const sy = fy * fy * (3 - 2 * fy);
  const top = noise(gx, gy, seed) * (1 - sx) + noise(gx + 1, gy, seed) * sx;
  const low = noise(gx, gy + 1, seed) * (1 - sx) + noise(gx + 1, gy + 1, seed) * sx;
  return top * (1 - sy) + low * sy;
}

type Colour = readonly [number, number, number];
const mix = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

function scene(x: number, y: number): Colour {
  const sky = mix(
    mix([168, 190, 204], [226, 214, 196], Math.min(1, y / HORIZON)),
    [240, 238, 232],
    0.5 * clouds(x, y * 2.4, 170, 1) + 0.2 * clouds(x, y, 40, 2),
  );
  if (y < HORIZON) {
    const hills = HORIZON - 26 - 30 * clouds(x, 0, 210, 3) - 8 * clouds(x, 0, 34, 4);
    return y > hills ? mix([96, 112, 116], sky, 0.45) : sky;
  }
  const depth = (y - HORIZON) / (HEIGHT - HORIZON);
  const wave = clouds(x, y * (3.6 - 2 * depth), 60 - 20 * depth, 5) * 0.6 + clouds(x, y * 3, 14, 6) * 0.4;
  return mix(mix([150, 160, 158], [44, 66, 74], depth), [196, 200, 192], Math.max(0, wave - 0.5) * 0.7);
}

function pier(x: number, y: number, under: Colour): Colour {
  const edge = 470 + (x - 300) * 0.16;
  const grain = noise(x >> 1, y >> 3, 7) * 14 + clouds(x, y, 9, 8) * 12;
  if (x > 300 && y > edge && y < edge + 46 + (x - 300) * 0.05) {
    const board = Math.floor((x - 300) / (14 + (x - 300) * 0.012));
    return mix([112 + grain, 96 + grain, 80 + grain], [70, 58, 48], noise(board, 0, 9) * 0.5);
  }
  for (let k = 0; k < 7; k++) {
    const at = 350 + k * 150;
    const wide = 9 + k * 1.6;
    const top = 470 + (at - 300) * 0.16 + 40;
    if (Math.abs(x - at) < wide && y > top && y < top + 190 + k * 16)
      return [58 + grain - Math.abs(x - at), 50 + grain - Math.abs(x - at), 44 + grain];
  }
  return under;
}

function boat(x: number, y: number, under: Colour): Colour {
  const dx = x - 170;
  const dy = y - 590;
  if (dy > 0 && dy < 46 && Math.abs(dx) < 110 - dy * 1.1)
    return mix([150, 44, 38], [96, 26, 26], dy / 46 + 0.2 * noise(x, y, 10));
  if (dy > -46 && dy <= 0 && dx > -40 && dx < 46)
    return mix([228, 226, 214], [190, 190, 182], noise(x >> 1, y >> 1, 11) * 0.6);
  if (Math.abs(dx + 6) < 3 && dy > -150 && dy <= -46) return [74, 62, 52];
  return under;
}

function bollard(x: number, y: number, under: Colour): Colour {
  const dx = x - 1120;
  const dy = y - 560;
  const round = Math.abs(dx) < 26 && dy > 0 && dy < 84;
  const cap = (dx / 38) ** 2 + (dy / 15) ** 2 < 1;
  return round || cap
    ? mix([52, 56, 60], [130, 132, 130], Math.max(0, 1 - Math.abs(dx + 12) / 26) * 0.7 + noise(x, y, 12) * 0.12)
    : under;
}

/** What never changes, computed once: the pier before the water. */
let standing: Float32Array | undefined;

function still(): Float32Array {
  if (standing) return standing;
  standing = new Float32Array(3 * WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) standing.set(pier(x, y, scene(x, y)), 3 * (y * WIDTH + x));
  return standing;
}

/** A JPEG. */
export async function photograph({
  retouch,
  brighter = 0,
  crop = [0, 0, 0, 0],
  turned = 0,
  quality,
}: Shot): Promise<Uint8Array> {
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  const clean = retouch !== undefined;
  const ground = still();
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const at = 3 * (y * WIDTH + x);
      let c: Colour = [ground[at] ?? 0, ground[at + 1] ?? 0, ground[at + 2] ?? 0];
      if (!clean) c = boat(x, y, c);
      c = bollard(x, y, c);
      // The stamp that heals the sign board out of the boards is softer than they are.
      if (retouch === 'everything' && x > 640 && x < 760 && y > 536 && y < 580) c = mix(c, scene(x, y + 150), 0.85);
      const grain = (noise(x, y, 20) + noise(x, y, 21) + noise(x, y, 22) - 1.5) * 9;
      for (let k = 0; k < 3; k++)
        data[at + k] = Math.max(0, Math.min(255, Math.round((c[k] as number) + grain + brighter)));
    }
  }
  const [left, top, right, bottom] = crop;
  let picture = sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } }).blur(0.5);
  if (turned) picture = sharp(await picture.rotate(turned, { background: '#000000' }).png().toBuffer());
  const { width = WIDTH, height = HEIGHT } = turned ? await picture.metadata() : {};
  return new Uint8Array(
    await picture
      .extract({ left, top, width: width - left - right, height: height - top - bottom })
      .jpeg({ quality, mozjpeg: false })
      .withMetadata({ density: 300 })
      .toBuffer(),
  );
}
