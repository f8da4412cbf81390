/** Comparing two drawings of 50,000 elements against reading both. */
import { compareDesigns, defaultLimits, formatById } from '@ovrel/core';
import { against, line, ms } from './measure.ts';

const COUNT = 50_000;

/** A plausible drawing: groups of shapes, texts and placements; deterministic. */
export function largeDrawing(count: number, edited: boolean, ids: boolean): Uint8Array {
  let seed = 11;
  const random = (n: number): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed % n;
  };
  const out = ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10000 10000"><defs><symbol id="bolt" overflow="visible"><circle r="4"/><path d="M-6 0h12M0-6v12"/></symbol></defs>'];
  for (let i = 0; i < count; i++) {
    const x = random(9900), y = random(9900), change = edited && i % 101 === 7;
    const id = ids ? ` id="p${i}"` : '', dx = change ? 12.5 : 0, colour = `#${(0x100000 + random(0xefffff)).toString(16)}`;
    if (i % 500 === 0) out.push(i ? '</g>' : '', `<g id="group-${i / 500}">`);
    switch (i % 5) {
      case 0: out.push(`<rect${id} x="${x + dx}" y="${y}" width="${5 + random(60)}" height="${5 + random(60)}" fill="${colour}"/>`); break;
      case 1: out.push(`<path${id} d="M${x + dx} ${y} c${random(30)} ${random(30)} ${random(30)} ${random(30)} ${20 + random(30)} ${random(30)} l${random(20)} ${random(20)} z" style="fill:none;stroke:${colour};stroke-width:1.5"/>`); break;
      case 2: out.push(`<circle${id} cx="${x}" cy="${y}" r="${3 + random(20)}" fill="${change ? '#123456' : colour}"/>`); break;
      case 3: out.push(`<use${id} href="#bolt" x="${x + dx}" y="${y}"/>`); break;
      default: out.push(`<text${id} x="${x}" y="${y}" font-size="12">Mark ${i}${change ? ' new' : ''}</text>`);
    }
  }
  return new TextEncoder().encode(`${out.join('\n')}</g></svg>`);
}

export async function benchCompare(): Promise<void> {
  const svg = formatById('svg'), read = (bytes: Uint8Array) => svg?.read?.(bytes, defaultLimits);
  for (const ids of [true, false]) {
    const bytesA = largeDrawing(COUNT, false, true), bytesB = largeDrawing(COUNT, true, ids);
    const a = read(bytesA), b = read(bytesB);
    if (!a || !b) throw new Error('the drawings could not be read');
    const result = compareDesigns(a, b);
    const t = await against(() => [read(bytesA), read(bytesB)], () => compareDesigns(a, b), 5);
    const { changed, moved, added, removed } = result.counts;
    line(`comparing two SVGs of ${COUNT} elements ÷ reading both, ids ${ids ? 'kept' : 'destroyed'}`, t.ratio.toFixed(2), `goal ≤ 1; ${ms(t.subject)} against ${ms(t.baseline)}; found ${changed} changed, ${moved} moved, ${added} added, ${removed} removed of ${Math.ceil((COUNT - 7) / 101)} edits`);
  }
}
