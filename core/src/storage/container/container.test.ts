import { deflateRawSync, deflateSync } from 'node:zlib';
import { zip as zipOf, png } from '../../../../bench/series.ts';
import pako from 'pako';
import { concat } from '../../bytes/concat.ts';
import { zlibEngine } from './deflate.ts';
import { placesIn } from './members.ts';
import { rebuild } from './rebuild.ts';
import { packRecipe, sizeOf, unpackRecipe, type Segment } from './recipe.ts';
import { unpack, unpackLimits, type Unpacked } from './unpack.ts';

const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const page = (n: number): Uint8Array =>
  text(Array.from({ length: 3000 }, (_, i) => `<row n="${i}">${(i * 7919 + n) % 1000}</row>`).join(''));
const picture = (level: 6 | 9 = 6): Uint8Array =>
  png(120, 90, (x, y) => [(x * y) % 251, (x * 3) % 256, (y * 5) % 256], level);

/** Rebuilt through the recipe's stored form, with the stream handed out in odd pieces. */
async function again({ segments, stream }: Unpacked): Promise<Uint8Array> {
  let at = 0;
  const out: Uint8Array[] = [];
  const take = async (most: number): Promise<Uint8Array> => {
    const piece = stream.subarray(at, at + Math.min(most, 777));
    at += piece.length;
    return piece;
  };
  const deflate = async (
    bytes: Uint8Array,
    settings: { level: number; memory: number; strategy: number },
  ): Promise<Uint8Array> => zlibEngine.deflate(bytes, settings)!;
  for await (const piece of rebuild(unpackRecipe(packRecipe(segments)), take, deflate)) out.push(piece);
  expect(at).toBe(stream.length);
  return concat(out);
}

const kinds = (segments: readonly Segment[]): string[] =>
  segments.map((s) => (s.kind === 'raw' ? 'raw' : `${s.kind}(${kinds(s.inner).join(' ')})`));

describe('containers open and come back byte for byte', () => {
  test('a ZIP of texts: members lie inflated in the stream', async () => {
    const bytes = zipOf(
      [
        { name: 'a.xml', bytes: page(1) },
        { name: 'b.xml', bytes: page(2) },
      ],
      7,
    );
    const opened = unpack(bytes, [zlibEngine])!;
    expect(opened).toMatchObject({ opened: 2, closed: 0 });
    expect(Buffer.from(opened.stream).includes(Buffer.from(page(2)))).toBe(true);
    expect(await again(opened)).toEqual(bytes);
    expect(opened.segments.reduce((n, s) => n + sizeOf(s), 0)).toBe(bytes.length);
  });

  test.each([1, 9] as const)('a ZIP written at level %d', async (level) => {
    const bytes = zipOf([{ name: 'a.xml', bytes: page(1) }], 7, level);
    const opened = unpack(bytes, [zlibEngine])!;
    expect(opened.settings[0]).toMatchObject({ level });
    expect(await again(opened)).toEqual(bytes);
  });

  test('a PNG, its data cut into chunks', async () => {
    for (const bytes of [picture(6), picture(9)]) {
      const opened = unpack(bytes, [zlibEngine])!;
      expect(opened.stream.length).toBeGreaterThan(120 * 90 * 3);
      expect(await again(opened)).toEqual(bytes);
    }
  });

  test('a ZIP with PNG layers, stored and deflated, and a ZIP within', async () => {
    const inner = zipOf([{ name: 'x.txt', bytes: page(3) }], 1);
    const bytes = zipOf(
      [
        { name: 'layer.png', bytes: picture(), stored: true },
        { name: 'also.png', bytes: picture() },
        { name: 'inner.zip', bytes: inner, stored: true },
      ],
      7,
    );
    const opened = unpack(bytes, [zlibEngine])!;
    expect(opened.opened).toBe(4);
    expect(kinds(opened.segments)).toContain('deflate(raw zlib(raw) raw)');
    expect(await again(opened)).toEqual(bytes);
  });

  test('a PDF: each stream by itself, words and structure stay readable', async () => {
    const stream = (n: number, data: Uint8Array): Uint8Array =>
      concat([
        text(`${n} 0 obj\n<< /Filter /FlateDecode /Length ${data.length} >>\nstream\r\n`),
        data,
        text('\nendstream\nendobj\n'),
      ]);
    const bytes = concat([
      text('%PDF-1.7\n'),
      stream(1, pako.deflate(page(1))),
      stream(2, pako.deflate(page(2), { level: 9 })),
      stream(3, text('not deflated')),
      text('trailer\n%%EOF'),
    ]);
    const opened = unpack(bytes, [zlibEngine])!;
    expect(opened).toMatchObject({ opened: 2 });
    expect(kinds(opened.segments)).toEqual(['raw', 'zlib(raw)', 'raw', 'zlib(raw)', 'raw']);
    expect(await again(opened)).toEqual(bytes);
  });

  test('settings of one file are tried first on the next', () => {
    const first = unpack(picture(9), [zlibEngine])!;
    const calls: number[] = [];
    const counting = {
      ...zlibEngine,
      deflate: (...a: Parameters<typeof zlibEngine.deflate>) => (calls.push(1), zlibEngine.deflate(...a)),
    };
    expect(unpack(picture(9), [counting], first.settings)).toBeDefined();
    expect(calls).toHaveLength(1);
  });
});

describe('what cannot be had again byte for byte stays closed', () => {
  test('members of another deflate', () => {
    const odd = deflateRawSync(page(1), { level: 6, windowBits: 9 });
    const bytes = zipOf([{ name: 'a', bytes: page(1) }], 7);
    const at = placesIn(bytes)[0]!;
    const mixed = concat([bytes.slice(0, at.start), odd, bytes.slice(at.end)]);
    expect(unpack(mixed, [zlibEngine])).toBeUndefined();
  });

  test('one odd member does not close the others', async () => {
    const a = page(1);
    const huffman = deflateSync(a, { strategy: 2, level: 6, memLevel: 5 });
    const pdf = concat([
      text('%PDF-1.4\nstream\n'),
      huffman,
      text('\nendstream\nstream\n'),
      pako.deflate(page(2)),
      text('\nendstream\n'),
    ]);
    const opened = unpack(pdf, [zlibEngine])!;
    expect(opened).toMatchObject({ opened: 1, closed: 1 });
    expect(await again(opened)).toEqual(pdf);
  });

  test('a wrong check sum in a picture', () => {
    const bytes = picture();
    bytes[bytes.length - 20]! ^= 1;
    expect(unpack(bytes, [zlibEngine])).toBeUndefined();
  });
});

describe('hostile containers', () => {
  test('a bomb stays closed', () => {
    const bytes = zipOf(
      [
        { name: 'bomb', bytes: new Uint8Array(3_000_000) },
        { name: 'fine.xml', bytes: page(1) },
      ],
      7,
    );
    const opened = unpack(bytes, [zlibEngine], [], { ...unpackLimits, member: 1_000_000 })!;
    expect(opened).toMatchObject({ opened: 1, closed: 1 });
    expect(opened.stream.length).toBeLessThan(200_000);
  });

  test('the sum of many members is bounded too', () => {
    const bytes = zipOf(
      Array.from({ length: 10 }, (_, i) => ({ name: `m${i}`, bytes: page(i) })),
      7,
    );
    expect(unpack(bytes, [zlibEngine], [], { ...unpackLimits, total: page(0).length * 3 })!.opened).toBe(3);
  });

  test('entries that overlap, point outside or claim absurd sizes are passed over', async () => {
    const bytes = zipOf(
      [
        { name: 'a', bytes: page(1) },
        { name: 'b', bytes: page(2) },
      ],
      7,
    );
    const central = Buffer.from(bytes).indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    const second = Buffer.from(bytes).indexOf(Buffer.from([0x50, 0x4b, 1, 2]), central + 4);
    const edited = (at: number, value: number): Uint8Array => {
      const copy = bytes.slice();
      new DataView(copy.buffer).setUint32(at, value, true);
      return copy;
    };
    for (const [hostile, count] of [
      [edited(second + 42, 0), 1],
      [edited(second + 42, 0xfffffff0), 1],
      [edited(second + 20, 0x7fffffff), 1],
      [edited(bytes.length - 6, 0xffffff), undefined],
    ] as const) {
      const opened = unpack(hostile, [zlibEngine]);
      expect(opened?.opened).toBe(count);
      if (opened) expect(await again(opened)).toEqual(hostile);
    }
  });

  test('nests within nests end at a depth', async () => {
    let bytes = page(1);
    for (let i = 0; i < 8; i++) bytes = zipOf([{ name: 'in.zip', bytes }], i);
    const opened = unpack(bytes, [zlibEngine])!;
    expect(opened.opened).toBeLessThanOrEqual(3);
    expect(await again(opened)).toEqual(bytes);
  });

  test('any cut and any flipped byte gives the same bytes or stays closed', async () => {
    const good = zipOf(
      [
        { name: 'a.xml', bytes: page(1).slice(0, 3000) },
        { name: 'p.png', bytes: png(20, 20, (x, y) => [x, y, 9]), stored: true },
      ],
      7,
    );
    for (let i = 0; i < 300; i++) {
      const bytes = i % 3 ? good.slice() : good.slice(0, (good.length * i) / 300);
      if (i % 3) bytes[(i * 7919) % bytes.length]! ^= 1 << (i % 8);
      const opened = unpack(bytes, [zlibEngine]);
      if (opened) expect(await again(opened)).toEqual(bytes);
    }
  });
});
