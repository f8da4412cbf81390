/**
 * Where a drawing comes from: the program, the version of the format, and the unit (header variables and leading
 * comments).
 */
import type { Origin } from '../../model/design.ts';
import type { DxfDocument } from './document.ts';

const versions: Readonly<Record<string, string>> = {
  AC1006: 'R10',
  AC1009: 'R12',
  AC1012: 'R13',
  AC1014: 'R14',
  AC1015: '2000',
  AC1018: '2004',
  AC1021: '2007',
  AC1024: '2010',
  AC1027: '2013',
  AC1032: '2018',
};

/** Names and millimetres by number of `$INSUNITS` (DXF reference, HEADER). */
const units: Readonly<Record<number, readonly [string, number]>> = {
  1: ['in', 25.4],
  2: ['ft', 304.8],
  3: ['mi', 1_609_344],
  4: ['mm', 1],
  5: ['cm', 10],
  6: ['m', 1000],
  7: ['km', 1e6],
  8: ['µin', 25.4e-6],
  9: ['mil', 0.0254],
  10: ['yd', 914.4],
  11: ['Å', 1e-7],
  12: ['nm', 1e-6],
  13: ['µm', 0.001],
  14: ['dm', 100],
  15: ['dam', 1e4],
  16: ['hm', 1e5],
  17: ['Gm', 1e12],
  21: ['US ft', 304.800609601],
};

export function unitOf(header: DxfDocument['header']): { name: string | undefined; millimetres: number | undefined } {
  const unit = units[Number(header.get('$INSUNITS')?.[0] ?? 0)];
  return { name: unit?.[0], millimetres: unit?.[1] };
}

export function originOf({ header, groups: g }: DxfDocument): Origin {
  const version = String(header.get('$ACADVER')?.[0] ?? '').trim();
  let program: string | undefined;
  for (let i = 0; i < Math.min(g.count, 40) && !program; i++)
    if (g.codes[i] === 999) program = g.text(i).trim().slice(0, 80) || undefined;
  return {
    ...(program ? { program } : {}),
    ...(version ? { formatVersion: versions[version] ? `${version} (${versions[version]})` : version } : {}),
  };
}
