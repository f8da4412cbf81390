/** Sound files to begin with, small ones, of every format that has a reader. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { DxfWriter } from '@ovrel/core';
import { makeOra, type NewLayer } from '@ovrel/core/node';
import { initializeCanvas, writePsdUint8Array } from 'ag-psd';
import { writeOds } from 'hucre/ods';
import { PDFDocument, StandardFonts } from 'pdf-lib';
import sharp, { type Sharp } from 'sharp';
import { drawFraming, framings } from '../demo/drawings/framing.ts';
import { drawPlan, plans } from '../demo/drawings/plan.ts';
import { boards, drawBoard } from '../demo/drawings/signs.ts';
import { steelWorkbook } from '../demo/tables/steel.ts';
import { root } from '../bin/lib/prepare.mjs';
import { binaryDxf } from './binary.ts';
import { models } from './models.ts';

const text = (s: string): Uint8Array => new TextEncoder().encode(s);

/** Small pictures, layered ones and documents; made once. */
async function made(): Promise<Record<string, Uint8Array[]>> {
  const raw = (seed: number): Buffer =>
    Buffer.from(
      Uint8Array.from({ length: 48 * 36 * 4 }, (_, k) =>
        k % 4 === 3 ? 255 : Math.imul((k >> 4) + seed, 2_654_435_761) >>> 24,
      ),
    );
  const picture = (seed: number): Sharp => sharp(raw(seed), { raw: { width: 48, height: 36, channels: 4 } });
  const out: Record<string, Uint8Array[]> = {};
  for (const format of ['png', 'jpeg', 'webp', 'avif', 'tiff', 'gif'] as const)
    out[format] = [
      new Uint8Array(await picture(1).toFormat(format).toBuffer()),
      new Uint8Array(await picture(2).withMetadata({ orientation: 6, density: 300 }).toFormat(format).toBuffer()),
    ];
  const png = new Uint8Array(await picture(3).png().toBuffer());
  const layer = (name: string, group = -1): NewLayer => ({
    name,
    group,
    hidden: false,
    opacity: 0.8,
    blend: 'multiply',
    pixels: { png, x: 3, y: 2 },
  });
  out['ora'] = [
    await makeOra(48, 36, 150, [
      layer('a'),
      { name: 'g', group: -1, hidden: true, opacity: 1, blend: 'normal' },
      layer('b', 1),
    ]),
    await makeOra(48, 36, undefined, [layer('only')]),
  ];
  const image = { width: 48, height: 36, data: Uint8ClampedArray.from(raw(4)), colorSpace: 'srgb' } as ImageData;
  initializeCanvas(
    () => {
      throw new Error('none');
    },
    (width, height) =>
      ({ width, height, data: new Uint8ClampedArray(4 * width * height), colorSpace: 'srgb' }) as unknown as ImageData,
  );
  out['psd'] = [
    writePsdUint8Array({
      width: 48,
      height: 36,
      imageData: image,
      children: [
        { name: 'x', imageData: image },
        { name: 'g', children: [{ name: 'y', imageData: image, hidden: true }] },
      ],
    }),
    writePsdUint8Array(
      { width: 48, height: 36, imageData: image, children: [{ name: 'x', imageData: image }] },
      { compress: true },
    ),
  ];
  out['csv'] = [text('Mark,Mass\nB1,2.5\n"B 2",3\n'), text('Mark;Mass\r\nB1;2,5\r\nB2;"a\nb"\r\n')];
  out['xlsx'] = [await steelWorkbook(1), await steelWorkbook(4)];
  out['ods'] = [
    await writeOds({
      sheets: [
        {
          name: 'Steel',
          rows: [
            ['Mark', 'Mass'],
            ['B1', 2.5],
            ['B2', null],
          ],
        },
      ],
    }),
  ];
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  const page = document.addPage([200, 150]);
  page.drawText('Revision A', { x: 20, y: 20, size: 12, font });
  page.drawRectangle({ x: 50, y: 60, width: 40, height: 30 });
  page.drawImage(await document.embedPng(png), { x: 100, y: 60, width: 48, height: 36 });
  document.addJavaScript('hello', 'app.alert("x")');
  out['pdf'] = [await document.save({ useObjectStreams: false }), await document.save()];
  return out;
}

export async function corpus(): Promise<Record<string, Uint8Array[]>> {
  const all = new DxfWriter()
    .layer('a', { colour: '#112233', lineType: 'D' })
    .lineType('D', [3, -1, 0, -1])
    .block('b', [1, 1], (b) => b.circle([1, 1], 2).line([0, 0], [1, 1]))
    .block('c', [0, 0], (b) => b.placement('b', [3, 3], { turn: 20 }))
    .line([0, 0], [3, 4], { layer: 'a' })
    .arc([0, 0], 2, 0, 90)
    .polyline(
      [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
      true,
      {},
      [0.5],
    )
    .text([1, 2], 3, 'x')
    .paragraph([0, 0], 1, 20, 'one\ntwo')
    .placement('c', [5, 5], { turn: 45, attributes: [{ tag: 'T', at: [5, 6], height: 1, words: 'x' }] })
    .hatch(
      [
        [0, 0],
        [2, 0],
        [2, 2],
      ],
      { angle: 45, distance: 0.1 },
    )
    .hatch(
      [
        [0, 0],
        [2, 0],
        [2, 2],
      ],
      undefined,
    )
    .finish();
  const extra =
    '  0\nSPLINE\n  8\n0\n 70\n8\n 71\n3\n 40\n0\n 40\n0\n 40\n0\n 40\n0\n 40\n1\n 40\n1\n 40\n1\n 40\n1\n 10\n0\n 20\n0\n 10\n1\n 20\n2\n 10\n3\n 20\n2\n 10\n4\n 20\n0\n  0\nELLIPSE\n  8\n0\n 10\n0\n 20\n0\n 11\n5\n 21\n1\n 40\n0.4\n 41\n0\n 42\n5\n  0\nPOLYLINE\n  8\n0\n 66\n1\n 70\n64\n 71\n3\n  0\nVERTEX\n 70\n192\n 10\n0\n 20\n0\n  0\nVERTEX\n 70\n192\n 10\n5\n 20\n0\n  0\nVERTEX\n 70\n128\n 71\n1\n 72\n-2\n 73\n1\n  0\nSEQEND\n  0\nINSERT\n  2\nb\n 70\n300\n 71\n200\n 44\n5\n 45\n5\n  0\nMULTILEADER\n304\nLEADER_LINE{\n 10\n0\n 20\n0\n305\n}\n304\nnote\n  0\nVIEWPORT\n 10\n1\n 20\n1\n 40\n5\n 41\n5\n 45\n9\n';
  const rich = all.replace('ENTITIES\n', `ENTITIES\n${extra}`);
  const plan = drawFraming((framings[0] as (typeof framings)[number]).framing).slice(0, 9000);
  const svgs = [drawPlan(plans[0] as (typeof plans)[number]), drawBoard(boards.approved)].map(text);
  return {
    ...(await made()),
    ...(await models()),
    dxf: [text(rich), text(plan)],
    'binary dxf': [binaryDxf(rich), binaryDxf(plan)],
    svg: [...svgs, Uint8Array.from(readFileSync(join(root, 'demo/real/sailboat-labels.svg'))).subarray(0, 20_000)],
  };
}
