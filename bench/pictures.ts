/** Comparing pictures: against plain pixel differences, and against edits that are known. */
import { diff as blaze } from '@blazediff/core';
import pixelmatch from 'pixelmatch';
import sharp from 'sharp';
import { photograph } from '../demo/drawings/photograph.ts';
import { align } from '../core/src/raster/align.ts';
import type { Bitmap } from '../core/src/raster/bitmap.ts';
import { comparePictures } from '../core/src/raster/compare-pictures.ts';
import { differenceOf } from '../core/src/raster/difference.ts';
import type { Picture } from '../core/src/raster/picture.ts';
import { regionsOf } from '../core/src/raster/regions.ts';
import { toneBetween } from '../core/src/raster/tone.ts';
import { warp } from '../core/src/raster/warp.ts';

const of = (bitmap: Bitmap, format = 'png'): Picture => ({ bitmap, format, depth: 8, density: undefined, profile: undefined, colours: 'srgb', transparent: false, pages: 1, notes: [] });

async function decoded(bytes: Uint8Array): Promise<Bitmap> {
  const { data, info } = await sharp(bytes, { limitInputPixels: false }).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

/** The photograph of the demo, as large as is wanted. */
async function scene(width: number, height: number): Promise<Buffer> {
  return sharp(await photograph({ quality: 98 })).resize(width, height, { kernel: 'lanczos3', fit: 'fill' }).png({ compressionLevel: 1 }).toBuffer();
}

const timed = <T>(work: () => T): { ms: number; value: T } => {
  const start = performance.now(), value = work();
  return { ms: performance.now() - start, value };
};

/** Middle of three. */
const middle = (work: () => unknown): number => [1, 2, 3].map(() => timed(work).ms).sort((p, q) => p - q)[1] ?? 0;

/** `rows`: only the known edits whose names begin so. */
export async function benchPictures(rows?: string): Promise<void> {
  if (rows === undefined) {
    await speed();
    await memory();
  }
  await accuracy(rows ?? '');
}

async function speed(): Promise<void> {
  const whole = await scene(6000, 4000), a = await decoded(whole);
  const patch = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#446688' } }).png().toBuffer();
  const painted = sharp(whole).composite([{ input: patch, left: 2000, top: 1500 }]);
  const cases: [string, Bitmap][] = [['one place repainted', await decoded(await painted.clone().png({ compressionLevel: 1 }).toBuffer())], ['repainted, and JPEG at 85', await decoded(await painted.clone().jpeg({ quality: 85 }).toBuffer())], ['cropped by 40 px', await decoded(await sharp(whole).extract({ left: 40, top: 0, width: 5960, height: 4000 }).png({ compressionLevel: 1 }).toBuffer())]];
  console.log('24 megapixels, ms:            whole comparison   pixelmatch   blazediff   ÷ pixelmatch   moving the threshold');
  for (const [name, b] of cases) {
    const ours = middle(() => comparePictures(of(a), of(b))), same = a.width === b.width, out = new Uint8Array(a.data.length);
    const plain = same ? middle(() => pixelmatch(a.data, b.data, out, a.width, a.height, { threshold: 0.1 })) : NaN, fast = same ? middle(() => blaze(a.data, b.data, out, a.width, a.height, { threshold: 0.1 })) : NaN;
    const { matrix } = align(a, b), seen = warp(a, matrix, b), map = differenceOf(seen.bitmap, b, seen.covered, toneBetween(seen.bitmap, b, seen.covered));
    const slider = [1, 2.3, 5, 10].map((t) => timed(() => regionsOf(map, b, t)).ms), n = (v: number): string => (Number.isNaN(v) ? '–' : v.toFixed(0));
    console.log(`${name.padEnd(28)} ${n(ours).padStart(17)} ${n(plain).padStart(12)} ${n(fast).padStart(11)} ${(Number.isNaN(plain) ? '–' : (ours / plain).toFixed(2)).padStart(15)} ${slider.map(n).join(' ').padStart(23)}`);
  }
}

async function memory(): Promise<void> {
  const a = await decoded(await scene(11_000, 9_000)), b: Bitmap = { ...a, data: Uint8Array.from(a.data) };
  for (let y = 4000; y < 4100; y++) for (let x = 4000; x < 4100; x++) b.data[4 * (y * a.width + x)] = 255;
  globalThis.gc?.();
  const before = process.memoryUsage(), { ms, value } = timed(() => comparePictures(of(a), of(b))), after = process.memoryUsage(), mb = (v: number): number => Math.round(v / 1024 ** 2);
  console.log(`99 megapixels: ${Math.round(ms)} ms, ${value.changes.length} place; both pictures ${mb(a.data.length * 2)} MB, beside them ${mb(after.rss - before.rss)} MB while comparing; the process ${mb(after.rss)} MB in all`);
}

/** Where one place of `size` was painted, and what was done to the whole. */
async function accuracy(rows: string): Promise<void> {
  const base = await sharp(await photograph({ quality: 98 })).png().toBuffer(), a = await decoded(base), spots = [[180, 200], [520, 470], [900, 700]] as const, colours = ['#a03028', '#2f5a3c', '#d9c27a'] as const;
  const wholes: [string, (png: Buffer) => Promise<Buffer>, (x: number, y: number) => readonly [number, number]][] = [
    ['nothing', async (p) => Promise.resolve(p), (x, y) => [x, y]],
    ...([95, 85, 70] as const).map((q): (typeof wholes)[number] => [`JPEG at ${q}`, async (p) => sharp(p).jpeg({ quality: q }).toBuffer(), (x, y) => [x, y]]),
    ['blurred by 1 px', async (p) => sharp(p).blur(1).png().toBuffer(), (x, y) => [x, y]],
    ...([0.25, 0.5, 3, 40] as const).map((d): (typeof wholes)[number] => [`shifted by ${d} px`, async (p) => sharp(p).affine([1, 0, 0, 1], { odx: d, ody: d / 2, interpolator: 'bicubic', background: '#888888' }).png().toBuffer(), (x, y) => [x + d, y + d / 2]]),
    ...([0.5, 0.8, 2] as const).map((s): (typeof wholes)[number] => [`scaled to ${s}`, async (p) => sharp(p).resize(Math.round(1440 * s)).png().toBuffer(), (x, y) => [x * s, y * s]]),
    ...([1, 5] as const).map((d): (typeof wholes)[number] => {
      const r = (d * Math.PI) / 180, c = Math.cos(r), s = Math.sin(r);
      return [`turned by ${d}°`, async (p) => sharp(p).affine([c, -s, s, c], { interpolator: 'bicubic', background: '#888888' }).png().toBuffer(), (x, y) => [c * x - s * y, s * x + c * y]];
    }),
  ];
  const sizes = [4, 8, 16, 40, 120, 400] as const;
  console.log('known edits: places found of those painted, by size; false places where nothing was painted');
  console.log(`${''.padEnd(20)} ${sizes.map((s) => `${s} px`.padStart(8)).join('')}   false`);
  for (const [name, change, at] of wholes.filter(([n]) => n.startsWith(rows))) {
    const row: string[] = [], plain = await decoded(await change(base)), found = (b: Bitmap): ReturnType<typeof comparePictures> => comparePictures(of(a), of(b)), none = found(plain);
    for (const size of sizes) {
      let hits = 0;
      for (const [k, [x, y]] of spots.entries()) {
        const left = Math.min(x, 1440 - size), top = Math.min(y, 960 - size), patch = await sharp({ create: { width: size, height: size, channels: 3, background: colours[k] ?? '#000000' } }).png().toBuffer();
        const b = await decoded(await change(await sharp(base).composite([{ input: patch, left, top }]).png().toBuffer())), [cx, cy] = at(left + size / 2, top + size / 2);
        // A turned page begins where its corner is.
        const dx = name.startsWith('turned') ? turnedBy(name) : 0;
        if (found(b).changes.some((c) => { const box = c.boxB ?? c.boxA; return box !== null && cx + dx >= box[0] - 6 && cx + dx <= box[2] + 6 && cy >= box[1] - 6 && cy <= box[3] + 6; })) hits++;
      }
      row.push(`${hits}/${spots.length}`.padStart(8));
    }
    console.log(`${name.padEnd(20)} ${row.join('')}   ${none.changes.length}`);
  }
}

/** How far right the page's corner went, so that all of it is seen. */
const turnedBy = (name: string): number => 960 * Math.sin((Number(/\d+/.exec(name)?.[0] ?? 0) * Math.PI) / 180);
