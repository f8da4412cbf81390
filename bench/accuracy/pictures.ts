/**
 * How much of known edits is found in pictures, and how much is imagined: one place painted over, and something done
 * to the whole.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { root } from '../../bin/lib/prepare.mjs';
import { comparePictures } from '../../core/src/kinds/picture/compare.ts';
import { photograph } from '../../demo/drawings/photograph.ts';
import { decoded, of } from '../pictures.ts';

interface Whole {
  readonly name: string;
  readonly make: (png: Buffer) => Promise<Buffer>;
  /** Where a place lies afterwards; `height` is that of the picture before. */
  readonly at: (x: number, y: number, height: number) => readonly [number, number];
}

const stays = (x: number, y: number): readonly [number, number] => [x, y];

const wholes: readonly Whole[] = [
  { name: 'nothing', make: (p) => Promise.resolve(p), at: stays },
  ...[95, 85, 70].map((quality): Whole => ({
    name: `JPEG at ${quality}`,
    make: (p) => sharp(p).jpeg({ quality }).toBuffer(),
    at: stays,
  })),
  { name: 'WebP at 80', make: (p) => sharp(p).webp({ quality: 80 }).toBuffer(), at: stays },
  { name: 'blurred by 1 px', make: (p) => sharp(p).blur(1).png().toBuffer(), at: stays },
  ...[0.25, 0.5, 1, 3, 10, 40].map((d): Whole => ({
    name: `shifted by ${d} px`,
    make: (p) =>
      sharp(p)
        .affine([1, 0, 0, 1], { odx: d, ody: d / 2, interpolator: 'bicubic', background: '#888888' })
        .png()
        .toBuffer(),
    at: (x, y) => [x + d, y + d / 2],
  })),
  ...[0.5, 0.8, 1.25, 2].map((s): Whole => ({
    name: `scaled to ${s}`,
    make: async (p) =>
      sharp(p)
        .resize(Math.round((await sharp(p).metadata()).width * s))
        .png()
        .toBuffer(),
    at: (x, y) => [x * s, y * s],
  })),
  ...[1, 2, 5].map((d): Whole => {
    const r = (d * Math.PI) / 180;
    const c = Math.cos(r);
    const s = Math.sin(r);
    // A turned page begins where its corner is.
    return {
      name: `turned by ${d}°`,
      make: (p) => sharp(p).affine([c, -s, s, c], { interpolator: 'bicubic', background: '#888888' }).png().toBuffer(),
      at: (x, y, height) => [c * x - s * y + height * s, s * x + c * y],
    };
  }),
  { name: 'brighter by 8 %', make: (p) => sharp(p).modulate({ brightness: 1.08 }).png().toBuffer(), at: stays },
];

const sizes = [4, 8, 16, 40, 120, 400];
const colours = ['#a03028', '#2f5a3c', '#d9c27a'];
const spots = [
  [0.125, 0.21],
  [0.36, 0.49],
  [0.625, 0.73],
] as const;

/** `rows`: only what was done to the whole whose name begins so. */
export async function benchKnownEdits(rows: string): Promise<void> {
  const scenes: [string, Buffer][] = [
    [
      'a drawn photograph of the demo, 1440 × 960',
      await sharp(await photograph({ quality: 98 }))
        .png()
        .toBuffer(),
    ],
    [
      'a real photograph (demo/real), 1440 px wide',
      await sharp(readFileSync(join(root, 'demo/real/backdrop.webp')))
        .resize(1440)
        .removeAlpha()
        .png()
        .toBuffer(),
    ],
  ];
  for (const [name, base] of scenes) {
    console.log(`pictures: ${name}. Places found of those painted, by size; false places where nothing was painted`);
    console.log(`${''.padEnd(20)} ${sizes.map((s) => `${s} px`.padStart(8)).join('')}   false`);
    const a = await decoded(base);
    const found = (b: Parameters<typeof of>[0]): ReturnType<typeof comparePictures>['changes'] =>
      comparePictures(of(a), of(b)).changes;
    for (const { name: done, make, at } of wholes.filter((w) => w.name.startsWith(rows))) {
      const row: string[] = [];
      const none = found(await decoded(await make(base)));
      for (const size of sizes) {
        let hits = 0;
        for (const [k, [sx, sy]] of spots.entries()) {
          const left = Math.min(Math.round(a.width * sx), a.width - size);
          const top = Math.min(Math.round(a.height * sy), a.height - size);
          const patch = await sharp({
            create: { width: size, height: size, channels: 3, background: colours[k] ?? '#000000' },
          })
            .png()
            .toBuffer();
          const b = await decoded(
            await make(
              await sharp(base)
                .composite([{ input: patch, left, top }])
                .png()
                .toBuffer(),
            ),
          );
          const [x, y] = at(left + size / 2, top + size / 2, a.height);
          if (
            found(b).some((c) => {
              const box = c.boxB ?? c.boxA;
              return box !== null && x >= box[0] - 6 && x <= box[2] + 6 && y >= box[1] - 6 && y <= box[3] + 6;
            })
          )
            hits++;
        }
        row.push(`${hits}/${spots.length}`.padStart(8));
      }
      console.log(
        `${done.padEnd(20)} ${row.join('')}   ${none.length}${
          none.length
            ? ` (${none
                .slice(0, 3)
                .map((c) => `${c.what[0]?.property} ${c.boxB?.join(' ')}`)
                .join('; ')})`
            : ''
        }`,
      );
    }
  }
}
