/** Drawings as lists of records that can be edited in the file itself, so that it is known which part is which. */
import { defaultLimits, type Design } from '@ovrel/core';
import { readDxf } from '../../core/src/formats/dxf/read.ts';
import { readSvg } from '../../core/src/formats/svg/read.ts';

/** One thing in the file that reads as one or several parts. */
export interface Item {
  /** Where it comes from: number of the item in the first version; −1 for a new one. */
  readonly from: number;
  /** Set where it has no single counterpart (a half of a split line, a shape out of a block). */
  readonly free?: boolean;
  readonly source: string;
}

export interface Drawing {
  readonly format: 'dxf' | 'svg';
  readonly name: string;
  readonly before: string;
  readonly after: string;
  readonly items: readonly Item[];
}

export const write = (d: Drawing): Uint8Array =>
  new TextEncoder().encode(d.before + d.items.map((i) => i.source).join('') + d.after);

const readers = { dxf: readDxf, svg: readSvg } as const;

export const read = (d: Drawing): Design => {
  const design = readers[d.format](write(d), defaultLimits);
  return design;
};

/** Which item each part of the design belongs to: parts stand in the order of the items. */
export function owners(d: Drawing, design: Design): Int32Array {
  const ends: number[] = [];
  let at = new TextEncoder().encode(d.before).length;
  for (const item of d.items) ends.push((at += new TextEncoder().encode(item.source).length));
  let k = 0;
  return Int32Array.from(design.parts, (p) => {
    while (k < ends.length - 1 && p.span[0] >= (ends[k] as number)) k++;
    while (k > 0 && p.span[0] < (ends[k - 1] as number)) k--;
    return k;
  });
}

/** Pairs of parts of A and B that are one and the same; and parts of either that have no single counterpart. */
export function truth(
  a: Drawing,
  designA: Design,
  b: Drawing,
  designB: Design,
): { pairs: Set<string>; freeA: Set<number>; freeB: Set<number> } {
  const ownA = owners(a, designA);
  const ownB = owners(b, designB);
  const first = (own: Int32Array): Map<number, number[]> => {
    const out = new Map<number, number[]>();
    own.forEach((item, part) => out.set(item, [...(out.get(item) ?? []), part]));
    return out;
  };
  const partsA = first(ownA);
  const partsB = first(ownB);
  const pairs = new Set<string>();
  const freeA = new Set<number>();
  const freeB = new Set<number>();
  const came = new Map<number, number>();
  b.items.forEach((item, k) => {
    if (item.free) {
      for (const part of partsB.get(k) ?? []) freeB.add(part);
      if (item.from >= 0) for (const part of partsA.get(item.from) ?? []) freeA.add(part);
    } else if (item.from >= 0) came.set(item.from, k);
  });
  for (const [from, k] of came) {
    const x = partsA.get(from) ?? [];
    const y = partsB.get(k) ?? [];
    for (let n = 0; n < Math.min(x.length, y.length); n++) if (!freeA.has(x[n] as number)) pairs.add(`${x[n]} ${y[n]}`);
  }
  return { pairs, freeA, freeB };
}

// --- DXF -------------------------------------------------------------------------------------------------------------

export type Group = [code: number, value: string];

export const groupsOf = (source: string): Group[] => {
  const lines = source.split('\n');
  const out: Group[] = [];
  for (let i = 0; i + 1 < lines.length; i += 2) out.push([Number(lines[i]), lines[i + 1] as string]);
  return out;
};
export const sourceOf = (groups: readonly Group[]): string =>
  groups.map(([code, value]) => `${String(code).padStart(3)}\n${value}\n`).join('');

export function dxfDrawing(name: string, text: string): Drawing {
  const source = text.replace(/\r\n?/g, '\n');
  const start = source.indexOf('ENTITIES\n') + 'ENTITIES\n'.length;
  const end = source.indexOf('  0\nENDSEC', start);
  const records: string[] = [];
  let current: Group[] = [];
  const followers = new Set(['VERTEX', 'ATTRIB', 'SEQEND']);
  for (const group of groupsOf(source.slice(start, end))) {
    if (group[0] === 0 && !followers.has(group[1].trim()) && current.length) {
      records.push(sourceOf(current));
      current = [];
    }
    current.push(group);
  }
  if (current.length) records.push(sourceOf(current));
  return {
    format: 'dxf',
    name,
    before: source.slice(0, start),
    after: source.slice(end),
    items: records.map((r, from) => ({ from, source: r })),
  };
}

// --- SVG -------------------------------------------------------------------------------------------------------------

/**
 * Parts that follow one another directly within the document; what stands between them goes along as items without
 * parts.
 */
export function svgDrawing(name: string, bytes: Uint8Array): Drawing {
  const design = readSvg(bytes, defaultLimits);
  const items: Item[] = [];
  const slice = (from: number, to: number): string => new TextDecoder().decode(bytes.subarray(from, to));
  let at = 0;
  let n = 0;
  for (const [from, to] of [...design.parts.map((p) => p.span)].sort((p, q) => p[0] - q[0])) {
    if (from < at) continue;
    if (from > at) items.push({ from: n++, source: slice(at, from) });
    items.push({ from: n++, source: slice(from, to) });
    at = to;
  }
  return { format: 'svg', name, before: '', after: slice(at, bytes.length), items };
}

/** True for items of an SVG drawing that are a part, not what stands between. */
export const isElement = (item: Item): boolean =>
  /^<(?:[\w-]+:)?(?:path|rect|circle|ellipse|line|polyline|polygon|text|use|image)\b/.test(item.source);
