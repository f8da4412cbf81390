/** Comparing pictures, against plain pixel differences. How much is found is measured in bench/accuracy/pictures.ts. */
import { diff as blaze } from '@blazediff/core';
import pixelmatch from 'pixelmatch';
import sharp from 'sharp';
import { photograph } from '../demo/drawings/photograph.ts';
import { align } from '../core/src/kinds/picture/align/align.ts';
import type { Bitmap } from '../core/src/raster/bitmap.ts';
import { comparePictures } from '../core/src/kinds/picture/compare.ts';
import { differenceOf } from '../core/src/kinds/picture/difference/difference.ts';
import { plainPicture, type Picture } from '../core/src/model/picture.ts';
import { regionsOf } from '../core/src/kinds/picture/difference/regions.ts';
import { toneBetween } from '../core/src/kinds/picture/tone/tone.ts';
import { warp } from '../core/src/kinds/picture/align/warp.ts';

export const of = (bitmap: Bitmap): Picture => plainPicture(bitmap);

export async function decoded(bytes: Uint8Array): Promise<Bitmap> {
  const { data, info } = await sharp(bytes, { limitInputPixels: false })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data.buffer, data.byteOffset, data.length) };
}

/** The photograph of the demo, as large as is wanted. */
async function scene(width: number, height: number): Promise<Buffer> {
  return sharp(await photograph({ quality: 98 }))
    .resize(width, height, { kernel: 'lanczos3', fit: 'fill' })
    .png({ compressionLevel: 1 })
    .toBuffer();
}

const timed = <T>(work: () => T): { ms: number; value: T } => {
  const start = performance.now();
  const value = work();
  return { ms: performance.now() - start, value };
};

/** Middle of three. */
const middle = (work: () => unknown): number => [1, 2, 3].map(() => timed(work).ms).sort((p, q) => p - q)[1] ?? 0;

export async function benchPictures(): Promise<void> {
  await speed();
  await memory();
}

async function speed(): Promise<void> {
  const whole = await scene(6000, 4000);
  const a = await decoded(whole);
  const patch = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#446688' } })
    .png()
    .toBuffer();
  const painted = sharp(whole).composite([{ input: patch, left: 2000, top: 1500 }]);
  const cases: [string, Bitmap][] = [
    ['one place repainted', await decoded(await painted.clone().png({ compressionLevel: 1 }).toBuffer())],
    ['repainted, and JPEG at 85', await decoded(await painted.clone().jpeg({ quality: 85 }).toBuffer())],
    [
      'cropped by 40 px',
      await decoded(
        await sharp(whole)
          .extract({ left: 40, top: 0, width: 5960, height: 4000 })
          .png({ compressionLevel: 1 })
          .toBuffer(),
      ),
    ],
  ];
  console.log(
    '24 megapixels, ms:            whole comparison   pixelmatch   blazediff   ÷ pixelmatch   moving the threshold',
  );
  for (const [name, b] of cases) {
    const ours = middle(() => comparePictures(of(a), of(b)));
    const same = a.width === b.width;
    const out = new Uint8Array(a.data.length);
    const plain = same ? middle(() => pixelmatch(a.data, b.data, out, a.width, a.height, { threshold: 0.1 })) : NaN;
    const fast = same ? middle(() => blaze(a.data, b.data, out, a.width, a.height, { threshold: 0.1 })) : NaN;
    const { matrix } = align(a, b);
    const seen = warp(a, matrix, b);
    const map = differenceOf(seen.bitmap, b, seen.covered, toneBetween(seen.bitmap, b, seen.covered));
    // As a slider asks, again and again.
    const slider = [1, 2.3, 5, 10].map((t) => middle(() => regionsOf(map, b, t)));
    const n = (v: number): string => (Number.isNaN(v) ? '–' : v.toFixed(0));
    console.log(
      `${name.padEnd(28)} ${n(ours).padStart(17)} ${n(plain).padStart(12)} ${n(fast).padStart(11)} ${(Number.isNaN(plain) ? '–' : (ours / plain).toFixed(2)).padStart(15)} ${slider.map(n).join(' ').padStart(23)}`,
    );
  }
}

async function memory(): Promise<void> {
  const a = await decoded(await scene(11_000, 9_000));
  const b: Bitmap = { ...a, data: Uint8Array.from(a.data) };
  for (let y = 4000; y < 4100; y++) for (let x = 4000; x < 4100; x++) b.data[4 * (y * a.width + x)] = 255;
  globalThis.gc?.();
  const before = process.memoryUsage();
  const { ms, value } = timed(() => comparePictures(of(a), of(b)));
  const after = process.memoryUsage();
  const mb = (v: number): number => Math.round(v / 1024 ** 2);
  console.log(
    `99 megapixels: ${Math.round(ms)} ms, ${value.changes.length} place; both pictures ${mb(a.data.length * 2)} MB, beside them ${mb(after.rss - before.rss)} MB while comparing; the process ${mb(after.rss)} MB in all`,
  );
}
