/** Comparing two drawings of 50,000 elements against reading both. */
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { assemble, compareDesigns, defaultLimits } from '@ovrel/core';
import { readDxf } from '../core/src/formats/dxf/read.ts';
import { readSvg } from '../core/src/formats/svg/read.ts';
import { plantDrawing } from './accuracy/plant.ts';
import { against, line, ms } from './measure.ts';

const COUNT = 50_000;

/** A plausible drawing: groups of shapes, texts and placements; deterministic. */
export function largeDrawing(count: number, edited: boolean, ids: boolean): Uint8Array {
  let seed = 11;
  const random = (n: number): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed % n;
  };
  const out = [
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10000 10000"><defs><symbol id="bolt" overflow="visible"><circle r="4"/><path d="M-6 0h12M0-6v12"/></symbol></defs>',
  ];
  for (let i = 0; i < count; i++) {
    const x = random(9900);
    const y = random(9900);
    const change = edited && i % 101 === 7;
    const id = ids ? ` id="p${i}"` : '';
    const dx = change ? 12.5 : 0;
    const colour = `#${(0x100000 + random(0xefffff)).toString(16)}`;
    if (i % 500 === 0) out.push(i ? '</g>' : '', `<g id="group-${i / 500}">`);
    switch (i % 5) {
      case 0:
        out.push(
          `<rect${id} x="${x + dx}" y="${y}" width="${5 + random(60)}" height="${5 + random(60)}" fill="${colour}"/>`,
        );
        break;
      case 1:
        out.push(
          `<path${id} d="M${x + dx} ${y} c${random(30)} ${random(30)} ${random(30)} ${random(30)} ${20 + random(30)} ${random(30)} l${random(20)} ${random(20)} z" style="fill:none;stroke:${colour};stroke-width:1.5"/>`,
        );
        break;
      case 2:
        out.push(`<circle${id} cx="${x}" cy="${y}" r="${3 + random(20)}" fill="${change ? '#123456' : colour}"/>`);
        break;
      case 3:
        out.push(`<use${id} href="#bolt" x="${x + dx}" y="${y}"/>`);
        break;
      default:
        out.push(`<text${id} x="${x}" y="${y}" font-size="12">Mark ${i}${change ? ' new' : ''}</text>`);
    }
  }
  return new TextEncoder().encode(`${out.join('\n')}</g></svg>`);
}

/** Memory is counted after everything that nothing needs is gone. */
setFlagsFromString('--expose_gc');
const collect = runInNewContext('gc') as () => void;

/** The same drawing with every handle made anew and one text in a hundred reworded. */
function editedPlant(text: string): string {
  let handle = 0x900000;
  let n = 0;
  return text
    .replace(/^( *5\n)[0-9A-F]+$/gm, (_, code: string) => `${code}${(handle++).toString(16).toUpperCase()}`)
    .replace(/^( *1\n[PVD]\d+)$/gm, (all) => (n++ % 10 === 0 ? `${all} new` : all));
}

/** DXF drawings of growing size, ids destroyed. */
async function benchDxf(): Promise<void> {
  const times: number[] = [];
  const counts = [10_000, 30_000, 100_000, 300_000];
  for (const count of counts) {
    const text = plantDrawing(count);
    const bytesA = new TextEncoder().encode(text);
    const bytesB = new TextEncoder().encode(editedPlant(text));
    const read = (bytes: Uint8Array) => readDxf(bytes, defaultLimits);
    collect();
    const before = process.memoryUsage();
    const a = read(bytesA);
    const b = read(bytesB);
    const result = assemble(compareDesigns(a, b));
    collect();
    const after = process.memoryUsage();
    const memory =
      (after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers) / (bytesA.length + bytesB.length);
    const t = await against(
      () => [read(bytesA), read(bytesB)],
      () => compareDesigns(a, b),
      count > 100_000 ? 3 : 5,
    );
    times.push(t.subject);
    line(
      `comparing two DXF drawings of ${count.toLocaleString('en')} entities ÷ reading both, handles destroyed`,
      t.ratio.toFixed(2),
      `goal ≤ 1; ${ms(t.subject)} against ${ms(t.baseline)}; ${result.counts.changed} changed, first cause: ${result.causes[0]?.sentence ?? 'none'}`,
    );
    line('  memory of both designs and the result ÷ both files', memory.toFixed(1), 'goal ≤ 6');
  }
  const [first = 1] = times;
  const last = times.at(-1) ?? 0;
  const n = 30;
  const log = Math.log2(300_000) / Math.log2(10_000);
  line(
    'time of comparing 300,000 ÷ 10,000 entities',
    (last / first).toFixed(1),
    `goal ≤ ${(n * log).toFixed(0)} (n log n)`,
  );
}

export async function benchCompare(): Promise<void> {
  await benchDxf();
  const read = (bytes: Uint8Array) => readSvg(bytes, defaultLimits);
  for (const ids of [true, false]) {
    const bytesA = largeDrawing(COUNT, false, true);
    const bytesB = largeDrawing(COUNT, true, ids);
    const a = read(bytesA);
    const b = read(bytesB);
    const result = assemble(compareDesigns(a, b));
    const t = await against(
      () => [read(bytesA), read(bytesB)],
      () => compareDesigns(a, b),
      5,
    );
    const { changed, moved, added, removed } = result.counts;
    line(
      `comparing two SVGs of ${COUNT} elements ÷ reading both, ids ${ids ? 'kept' : 'destroyed'}`,
      t.ratio.toFixed(2),
      `goal ≤ 1; ${ms(t.subject)} against ${ms(t.baseline)}; found ${changed} changed, ${moved} moved, ${added} added, ${removed} removed of ${Math.ceil((COUNT - 7) / 101)} edits`,
    );
  }
}
