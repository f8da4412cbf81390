import { applyX, applyY, identity, type Matrix } from '../../geometry/matrix.ts';
import { align } from './align/align.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { assemble } from '../../causes/assemble.ts';
import { comparePictures } from './compare.ts';
import { THRESHOLD } from './difference/difference-map.ts';
import { differenceOf } from './difference/difference.ts';
import { deltaE, labOf, nearDeltaE } from './tone/lab.ts';
import { packMap, unpackMap } from './difference/packed-map.ts';
import type { Picture } from '../../model/picture.ts';
import { whereOf } from './places/places.ts';
import { regionsOf } from './difference/regions.ts';
import { toneBetween } from './tone/tone.ts';
import { isExact, warp } from './align/warp.ts';

// The sandbox of the tests is slow at looking up names of its own.
const { hypot, min, max, imul } = Math;

/** The same numbers every time, between 0 and 1. */
const random = (seed: number) => (): number => {
  seed = (imul(seed, 1_103_515_245) + 12_345) & 0x7fffffff;
  return seed / 0x7fffffff;
};

type Paint = (x: number, y: number) => readonly [number, number, number];

function picture(width: number, height: number, paint: Paint): Bitmap {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...paint(x + 0.5, y + 0.5), 255], 4 * (y * width + x));
  return { width, height, data };
}

/** Overlapping soft discs: detail everywhere, the same at any scale. */
const discs = ((): Paint => {
  const r = random(11);
  const all = Array.from({ length: 90 }, () => ({
    x: r() * 480,
    y: r() * 320,
    s: 8 + r() * 30,
    c: [r() * 220, r() * 220, r() * 220] as const,
  }));
  return (x, y) => {
    let out: readonly [number, number, number] = [205 - y / 6, 200, 170 + x / 8];
    for (const d of all) {
      const inside = min(1, max(0, (d.s - hypot(x - d.x, y - d.y)) / 1.5 + 0.5));
      if (inside)
        out = [0, 1, 2].map(
          (k) => (out[k] as number) * (1 - inside) + (d.c[k] as number) * inside,
        ) as unknown as readonly [number, number, number];
    }
    return out;
  };
})();

const scene = picture(480, 320, discs);
const of = (bitmap: Bitmap, more: Partial<Picture> = {}): Picture => ({
  bitmap,
  savedAs: 'PNG',
  lossy: false,
  pageWord: 'Page',
  depth: 8,
  density: undefined,
  profile: undefined,
  colours: 'srgb',
  transparent: false,
  pages: 1,
  notes: [],
  ...more,
});
const said = (a: Bitmap, b: Bitmap, more?: Partial<Picture>): string[] =>
  assemble(comparePictures(of(a), of(b, more))).causes.map((c) => c.sentence);
const painted = (
  x0: number,
  y0: number,
  w: number,
  h: number,
  c: readonly [number, number, number],
  on: Paint = discs,
): Bitmap => picture(480, 320, (x, y) => (x >= x0 && x < x0 + w && y >= y0 && y < y0 + h ? c : on(x, y)));
/** Each pixel up to `by` brighter or darker. */
const noisy = ({ width, height, data }: Bitmap, by: number, seed: number): Bitmap => {
  const r = random(seed);
  return {
    width,
    height,
    data: Uint8ClampedArray.from(data, (v, k) => (k % 4 === 3 ? 255 : v + (r() - 0.5) * 2 * by)),
  };
};

describe('colours as people see them', () => {
  // From the table of Sharma, Wu and Dalal (2005).
  test.each([
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1],
    [[50, 2.5, 0], [50, 0, -2.5], 4.3065],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
    [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
  ])('%j and %j differ by %f', (p, q, d) => expect(deltaE(p[0]!, p[1]!, p[2]!, q[0]!, q[1]!, q[2]!)).toBeCloseTo(d, 3));

  test('the quick way for near colours is nearly the exact one', () => {
    const r = random(3);
    for (let k = 0; k < 400; k++) {
      const l = 10 + r() * 80;
      const a = r() * 60 - 30;
      const b = r() * 60 - 30;
      const p = [l, a, b] as const;
      const q = [l + r() * 4 - 2, a + r() * 4 - 2, b + r() * 4 - 2] as const;
      const exact = deltaE(...p, ...q);
      expect(Math.abs(nearDeltaE(...p, ...q) - exact)).toBeLessThan(0.6 * exact + 0.05);
    }
  });

  test('sRGB to CIELAB', () => {
    const near = (p: ArrayLike<number>, q: readonly number[]): void =>
      q.forEach((v, k) => expect(p[k]!).toBeCloseTo(v, 0));
    near(labOf(255, 255, 255), [100, 0, 0]);
    near(labOf(255, 0, 0), [53.24, 80.09, 67.2]);
    near(labOf(0, 0, 128), [12.97, 47.5, -64.7]);
  });
});

describe('laying one over the other', () => {
  const through = (m: Matrix): Bitmap => warp(scene, m, scene).bitmap;
  const error = (found: Matrix, m: Matrix): number =>
    Math.max(
      ...[
        [0, 0],
        [480, 0],
        [0, 320],
        [480, 320],
      ].map(([x, y]) =>
        Math.hypot(applyX(found, x!, y!) - applyX(m, x!, y!), applyY(found, x!, y!) - applyY(m, x!, y!)),
      ),
    );
  const turn = (degrees: number, scale = 1, dx = 0, dy = 0): Matrix => {
    const c = Math.cos((degrees * Math.PI) / 180) * scale;
    const s = Math.sin((degrees * Math.PI) / 180) * scale;
    return [c, s, -s, c, 240 - 240 * c + 160 * s + dx, 160 - 240 * s - 160 * c + dy];
  };

  test.each<[string, Matrix]>([
    ['a quarter of a pixel', [1, 0, 0, 1, 0.25, 0]],
    ['some pixels', [1, 0, 0, 1, -13, 7]],
    ['forty pixels', [1, 0, 0, 1, 40, -22.5]],
    ['two degrees', turn(2)],
    ['five degrees, larger, aside', turn(-5, 1.15, 12, -9)],
    ['a little smaller', turn(0, 0.8)],
  ])('%s', (_, m) => {
    const { matrix, found } = align(scene, through(m));
    expect(found).toBe(true);
    expect(error(matrix, m)).toBeLessThan(0.15);
  });

  test('resized, mirrored and turned by quarters exactly', () => {
    const half = warp(scene, [0.5, 0, 0, 0.5, 0, 0], { width: 240, height: 160 }).bitmap;
    expect(align(scene, half).matrix).toEqual([0.5, 0, 0, 0.5, 0, 0]);
    expect(align(scene, through([-1, 0, 0, 1, 480, 0])).matrix).toEqual([-1, 0, 0, 1, 480, 0]);
    expect(align(scene, warp(scene, [0, 1, -1, 0, 320, 0], { width: 320, height: 480 }).bitmap).matrix).toEqual([
      0, 1, -1, 0, 320, 0,
    ]);
  });

  test('a repainted place does not shift what is around it', () =>
    expect(align(scene, painted(100, 60, 160, 120, [40, 90, 40])).matrix).toEqual(identity));

  test('pictures that have nothing in common are not forced', () => {
    const r = random(5);
    const other = picture(480, 320, () => [r() * 255, r() * 255, r() * 255]);
    expect(align(scene, other).found).toBe(false);
    expect(comparePictures(of(scene), of(other)).notes[0]).toMatch(/too little in common/);
  });

  test('moves by whole pixels and flips mix no colours', () => {
    expect([isExact([1, 0, 0, 1, 5, -2]), isExact([-1, 0, 0, 1, 480, 0]), isExact([1, 0, 0, 1, 0.5, 0])]).toEqual([
      true,
      true,
      false,
    ]);
    const { bitmap, covered } = warp(scene, [1, 0, 0, 1, 10, 0], scene);
    expect([...bitmap.data.slice(4 * 10, 4 * 13)]).toEqual([...scene.data.slice(0, 12)]);
    expect([covered?.[9], covered?.[10]]).toEqual([0, 1]);
  });
});

describe('places that changed', () => {
  const places = (a: Bitmap, b: Bitmap) =>
    regionsOf(differenceOf(a, b, undefined, toneBetween(a, b, undefined)), b, THRESHOLD).regions;

  test('nothing where nothing changed', () => expect(places(scene, scene)).toEqual([]));
  test.each([[4], [8], [40], [150]])('a square of %i pixels, to the pixel', (size) =>
    expect(places(scene, painted(200, 100, size, size, [200, 30, 30]))[0]?.box).toEqual([
      200,
      100,
      200 + Math.ceil(size / 4) * 4,
      100 + Math.ceil(size / 4) * 4,
    ]),
  );
  test('pieces near one another are one place, far ones are two', () => {
    const both = (gap: number): Bitmap =>
      picture(480, 320, (x, y) =>
        y > 100 && y < 140 && ((x > 100 && x < 140) || (x > 140 + gap && x < 180 + gap)) ? [200, 30, 30] : discs(x, y),
      );
    expect([places(scene, both(6)).length, places(scene, both(90)).length]).toEqual([1, 2]);
  });

  test('noise everywhere is no place; paint in it is', () => {
    expect(places(scene, noisy(scene, 9, 3))).toEqual([]);
    const found = places(scene, noisy(painted(200, 100, 12, 12, [200, 30, 30]), 9, 3));
    expect(found).toHaveLength(1);
    expect(found[0]!.box[0]).toBeGreaterThanOrEqual(192);
    expect(found[0]!.box[2]).toBeLessThanOrEqual(220);
  });

  test('a higher threshold leaves less, and the largest comes first', () => {
    const b = picture(480, 320, (x, y) => {
      const c = discs(x, y);
      if (x > 40 && x < 140 && y > 40 && y < 120) return [c[0] + 12, c[1] + 12, c[2] + 12];
      if (x > 300 && x < 340 && y > 200 && y < 240) return [250, 0, 0];
      return c;
    });
    const map = differenceOf(scene, b, undefined, undefined);
    const at = (t: number) => regionsOf(map, b, t).regions;
    expect(at(THRESHOLD)).toHaveLength(2);
    expect(at(15)).toHaveLength(1);
    expect(at(15)[0]!.box[0]).toBeGreaterThanOrEqual(300);
  });

  test('the map can be sent, and says the same there', () => {
    const map = differenceOf(scene, painted(200, 100, 40, 40, [200, 30, 30]), undefined, undefined);
    const back = unpackMap(packMap(map), map.columns, map.rows, map.noise);
    expect(regionsOf(back, scene, THRESHOLD).regions.map((r) => r.box)).toEqual(
      regionsOf(map, scene, THRESHOLD).regions.map((r) => r.box),
    );
    expect(() => unpackMap(new Uint8Array(7), map.columns, map.rows, 0)).toThrow(/damaged/);
  });
});

describe('what was done, in sentences', () => {
  const all = (f: (c: readonly [number, number, number]) => readonly [number, number, number]): Bitmap =>
    picture(480, 320, (x, y) => f(discs(x, y)));

  test('nothing', () => expect(said(scene, scene)).toEqual([]));
  test('cropped', () =>
    expect(said(scene, warp(scene, [1, 0, 0, 1, -30, 0], { width: 400, height: 300 }).bitmap)).toEqual([
      'Cropped: 480 × 320 → 400 × 300 px, 30 px at the left, 50 px at the right, 20 px at the bottom cut off',
    ]));
  test('resampled', () =>
    expect(said(scene, warp(scene, [0.5, 0, 0, 0.5, 0, 0], { width: 240, height: 160 }).bitmap)).toEqual([
      'Resampled to 50 %: 480 × 320 → 240 × 160 px',
    ]));
  test('mirrored', () =>
    expect(said(scene, warp(scene, [-1, 0, 0, 1, 480, 0], scene).bitmap)).toEqual(['Mirrored left to right']));
  test('brighter, as one cause and no place', () =>
    expect(
      said(
        scene,
        all((c) => [c[0] * 0.9 + 20, c[1] * 0.9 + 20, c[2] * 0.9 + 20]),
      )[0],
    ).toMatch(/^Brighter overall, lightness \+\d/));
  test('colours removed', () =>
    expect(
      said(
        scene,
        all((c) => {
          const g = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
          return [g, g, g];
        }),
      )[0],
    ).toBe('Colours removed'));
  test('painted over, beside a change of everything', () => {
    const b = painted(
      300,
      40,
      60,
      40,
      [20, 20, 20],
      (x, y) => discs(x, y).map((v) => v * 0.9 + 20) as unknown as readonly [number, number, number],
    );
    expect(said(scene, b)).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^Brighter overall/),
        expect.stringMatching(/60 × 40 px at the upper right/),
      ]),
    );
  });
  test('moved from there to here', () => {
    const logo: Paint = (x, y) => (Math.hypot(x, y) < 16 ? [230, 190, 20] : [20, 40, 120]);
    const flat: Paint = (x, y) => [200, 205 - y / 8, 190 + x / 16];
    const at = (lx: number, ly: number): Bitmap =>
      picture(480, 320, (x, y) => (Math.abs(x - lx) < 24 && Math.abs(y - ly) < 24 ? logo(x - lx, y - ly) : flat(x, y)));
    expect(said(at(80, 80), at(360, 200))).toEqual(['Moved by (280, 120) px: 48 × 48 px at the right']);
  });
  test('recoloured, removed', () => {
    const flat: Paint = () => [225, 225, 220];
    const dot = (c: readonly [number, number, number] | undefined): Bitmap =>
      picture(480, 320, (x, y) => {
        if (c && Math.hypot(x - 240, y - 160) < 30) return c;
        if (Math.hypot(x - 60, y - 60) < 20) return [90, 90, 90];
        return flat(x, y);
      });
    expect(said(dot([200, 40, 40]), dot([40, 120, 60]))).toEqual(['Recoloured: 64 × 64 px in the middle']);
    expect(said(dot([200, 40, 40]), dot(undefined))).toEqual(['Something removed: 64 × 64 px in the middle']);
    expect(said(dot(undefined), dot([200, 40, 40]))).toEqual(['Something added: 64 × 64 px in the middle']);
  });
  test('what the files say', () =>
    expect(
      said(scene, scene, { density: 150, profile: 'Press', depth: 16, transparent: true, savedAs: 'TIFF' }).sort(),
    ).toEqual([
      '8 → 16 bits a channel',
      'Colour profile none → Press',
      'May be transparent now',
      'Resolution not given → 150 dpi',
      'Saved as TIFF, before as PNG',
    ]));
  test.each([
    [[0, 0, 10, 10], 'upper left'],
    [[470, 310, 480, 320], 'lower right'],
    [[235, 155, 245, 165], 'middle'],
    [[230, 0, 250, 20], 'top'],
    [[10, 10, 470, 300], 'nearly everywhere'],
  ] as const)('%j is %s', (box, where) => expect(whereOf(box, scene)).toBe(where));
});
