/** The steps of comparing pictures, one by one, on small pictures made by hand. */
import { identity, type Matrix } from '../../geometry/matrix.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { channelsBetween, through } from './tone/channels.ts';
import { withoutEdges } from './difference/edges.ts';
import { firstLook } from './first-look.ts';
import { leftOver, movedWithin, offsetBetween } from './places/moved.ts';
import { pageName } from '../../model/picture.ts';
import type { Region } from './difference/regions.ts';
import { warp } from './align/warp.ts';

type Colour = readonly [number, number, number];

function bitmap(width: number, height: number, paint: (x: number, y: number) => Colour): Bitmap {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set([...paint(x, y), 255], 4 * (y * width + x));
  return { width, height, data };
}

const paper: Colour = [244, 240, 230];
const ink: Colour = [20, 30, 50];
const red: Colour = [190, 30, 30];
/** A frame with a cross in it, which lies nowhere as well as where it is. */
const sign =
  (left: number, top: number) =>
  (x: number, y: number): Colour => {
    const u = x - left;
    const v = y - top;
    if (u < 0 || v < 0 || u >= 40 || v >= 30) return paper;
    return u < 3 || v < 3 || u >= 37 || v >= 27 || Math.abs(u - 20) < 2 || (v > 10 && v < 14 && u < 30) ? ink : paper;
  };
const region = (box: Region['box']): Region => ({ box, area: 0, mean: 30, largest: 60, evidence: 100 });

/** Squares of 4 × 4 pixels in which two pictures differ. */
function squares(a: Bitmap, b: Bitmap): number[] {
  const out: number[] = [];
  for (let y = 0; y < a.height; y += 4) {
    for (let x = 0; x < a.width; x += 4) {
      let differs = false;
      for (let dy = 0; dy < 4; dy++)
        for (let p = 4 * ((y + dy) * a.width + x); p < 4 * ((y + dy) * a.width + x + 4); p++)
          differs ||= a.data[p] !== b.data[p];
      if (differs) out.push(x, y);
    }
  }
  return out;
}

describe('moved within a place', () => {
  const a = bitmap(120, 80, sign(20, 20));

  test.each<[number, number]>([
    [2, 0],
    [0, -3],
    [9, 5],
    [-12, 8],
  ])('by %i, %i pixels, exactly', (dx, dy) => {
    const b = bitmap(120, 80, sign(20 + dx, 20 + dy));
    expect(movedWithin(a, b, region([4, 12, 76, 68]), squares(a, b))).toEqual([dx, dy]);
  });
  test('recoloured, redrawn, or with something put beside it: not moved', () => {
    const recoloured = bitmap(120, 80, (x, y) => (sign(20, 20)(x, y) === ink ? red : paper));
    const redrawn = bitmap(120, 80, (x, y) => (Math.hypot(x - 40, y - 35) < 15 ? ink : paper));
    const more = bitmap(120, 80, (x, y) => (x > 70 && x < 90 && y > 20 && y < 50 ? red : sign(20, 20)(x, y)));
    for (const b of [recoloured, redrawn, more])
      expect(movedWithin(a, b, region([8, 8, 96, 60]), squares(a, b))).toBeUndefined();
  });
  test('plain areas have no edges to be followed by', () => {
    const plain = bitmap(120, 80, () => paper);
    const painted = bitmap(120, 80, (x, y) => (x > 40 && x < 80 && y > 20 && y < 60 ? [236, 232, 222] : paper));
    expect(movedWithin(plain, painted, region([40, 20, 80, 60]), squares(plain, painted))).toBeUndefined();
  });
  test('what a move does not explain is left over, and nothing else', () => {
    const b = bitmap(120, 80, (x, y) => (x > 88 && x < 100 && y > 30 && y < 44 ? red : sign(22, 20)(x, y)));
    const left = leftOver(a, b, squares(a, b), [2, 0]);
    expect(left.length).toBeGreaterThan(0);
    expect(left.every((v, k) => (k % 2 ? v >= 28 && v <= 44 : v >= 84 && v <= 100))).toBe(true);
    const only = bitmap(120, 80, sign(22, 20));
    expect(leftOver(a, only, squares(a, only), [2, 0])).toEqual([]);
  });
  test('from one box to another, though boxes are known to four pixels only', () => {
    const b = bitmap(120, 80, sign(63, 37));
    expect(offsetBetween(a, [20, 20, 60, 52], b, [60, 36, 104, 68])).toEqual([43, 17]);
  });
});

describe('channel by channel', () => {
  const colours = Array.from({ length: 900 }, (_, k): Colour => [
    (k * 37) % 256,
    (k * 91 + 40) % 256,
    (k * 53 + 90) % 256,
  ]);
  const pairs = (f: (v: number, c: number) => number, spoilt = 0): Float32Array =>
    Float32Array.from(
      colours.flatMap((rgb, k) => [
        ...rgb,
        ...(k < spoilt ? [200, 20, 20] : rgb.map((v, c) => Math.max(0, Math.min(255, Math.round(f(v, c)))))),
      ]),
    );
  const worst = (found: ReturnType<typeof channelsBetween>, f: (v: number, c: number) => number): number =>
    Math.max(
      ...found.flatMap((curve, c) =>
        [20, 64, 128, 200, 240].map((v) => Math.abs((curve[v] as number) - Math.max(0, Math.min(255, f(v, c))))),
      ),
    );

  test.each<[string, (v: number, c: number) => number]>([
    ['brighter, cut off at white', (v) => v * 1.35],
    ['less contrast', (v) => 60 + v * 0.55],
    ['a gamma', (v) => 255 * (v / 255) ** 0.7],
    ['a negative', (v) => 255 - v],
    ['warmer', (v, c) => v * [1.15, 1, 0.8][c]!],
  ])('%s', (_, f) => expect(worst(channelsBetween(pairs(f)), f)).toBeLessThan(4));
  test('what was painted over does not lead it astray', () =>
    expect(worst(channelsBetween(pairs((v) => v * 0.8 + 10, 180)), (v) => v * 0.8 + 10)).toBeLessThan(4));
  test('a picture through them; what can be seen through stays so', () => {
    const half = { width: 2, height: 1, data: new Uint8Array([10, 20, 30, 255, 40, 50, 60, 77]) };
    const negative = Uint8Array.from({ length: 256 }, (_, v) => 255 - v);
    expect([...through(half, [negative, negative, negative]).data]).toEqual([245, 235, 225, 255, 215, 205, 195, 77]);
  });
});

describe('edges', () => {
  /** 40 × 40 squares, light at the left and dark at the right; `off` is how much each differs. */
  const judged = (off: (x: number, y: number) => number): { beyond: Float32Array } => {
    const columns = 40;
    const rows = 40;
    const plain = new Float32Array(1600);
    const shared = new Uint8Array(1600).fill(1);
    const means = new Float32Array(9600);
    for (let y = 0; y < rows; y++) {
      for (let x = 0; x < columns; x++) {
        const i = y * columns + x;
        const d = off(x, y);
        plain[i] = Math.abs(d);
        means.set([d, 0, 0, x < 20 ? 90 : 20, 0, 0], 6 * i);
      }
    }
    const beyond = Float32Array.from(plain);
    withoutEdges(beyond, { columns, rows, plain, shared, noise: 0 }, means);
    return { beyond };
  };
  const marked = (off: (x: number, y: number) => number): number[] =>
    [...judged(off).beyond.entries()].flatMap(([i, v]) => (v >= 2.3 ? [i] : []));
  const edge = (x: number): boolean => x === 19 || x === 20;

  test('drawn a little otherwise all along: nothing', () =>
    expect(marked((x, y) => (edge(x) ? 3 + (y % 5) : 0))).toEqual([]));
  test('an edge that differs in one place, while all others are the same, was edited', () =>
    expect(marked((x, y) => (edge(x) && y > 10 && y < 14 ? 12 : 0)).length).toBe(6));
  test('far more than the others: still a place', () =>
    expect(
      marked((x, y) => {
        if (x === 19 && y === 5) return 45;
        if (edge(x)) return 4;
        return 0;
      }),
    ).toEqual([5 * 40 + 19]));
  test('where there is no edge, none explains anything', () =>
    expect(
      marked((x, y) => {
        if (edge(x)) return 4;
        if (x === 33 && y === 30) return 6;
        return 0;
      }),
    ).toEqual([30 * 40 + 33]));
});

describe('seen through a matrix', () => {
  const source = bitmap(24, 16, (x, y) => [(x * 10) % 256, (y * 15) % 256, ((x + y) * 6) % 256]);
  /** A turn by nothing that is not taken for straight. */
  const nearly = (m: Matrix): Matrix => [m[0], 1e-12, 1e-12, m[3], m[4], m[5]];

  test.each<[string, Matrix]>([
    ['larger', [1.5, 0, 0, 1.5, 0, 0]],
    ['shifted by a part of a pixel', [1, 0, 0, 1, 0.3, -0.6]],
    ['mirrored and stretched', [-1.25, 0, 0, 0.9, 30, 1]],
  ])('%s: along rows and columns as pixel by pixel', (_, m) => {
    const to = { width: 36, height: 24 };
    const fast = warp(source, m, to);
    const slow = warp(source, nearly(m), to);
    expect(
      Math.max(...fast.bitmap.data.map((v, k) => Math.abs(v - (slow.bitmap.data[k] as number)))),
    ).toBeLessThanOrEqual(1);
    expect(fast.covered).toEqual(slow.covered);
  });
  test('as it is, without a copy', () => expect(warp(source, identity, source).bitmap).toBe(source));
});

describe('a first look', () => {
  const a = bitmap(240, 160, sign(40, 40));
  test('nothing, where nothing is seen', () => expect(firstLook(a, a)).toEqual([]));
  test('what and where, without sizes that would be wrong at full size', () => {
    expect(
      firstLook(
        a,
        bitmap(240, 160, (x, y) => (x > 190 && x < 220 && y > 110 && y < 140 ? red : sign(40, 40)(x, y))),
      ),
    ).toEqual(['Something added: lower right']);
    const two = (by: number): Bitmap =>
      bitmap(240, 160, (x, y) => (x < 120 ? sign(40 + by, 40)(x, y) : sign(180, 90)(x, y)));
    expect(firstLook(two(0), two(6))).toEqual(['Moved: left']);
  });
});

test('pages of scans, frames of moving pictures', () => {
  expect([pageName({ pageWord: 'Page' }, 0), pageName({ pageWord: 'Frame' }, 2)]).toEqual(['Page 1', 'Frame 3']);
});
