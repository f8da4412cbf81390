import { drawFraming, framings } from '../../../demo/drawings/framing.ts';
import type { Compared } from '../kinds/compare-files.ts';
import { compared as comparing, designOf } from '../testing.ts';
import { cropsOf } from './crops.ts';
import { changesAsDxf, changesAsSvg } from './drawing.ts';
import { csvTable } from './csv.ts';
import { reportColumns, reportRows } from './rows.ts';

const deck = (n: number): string => drawFraming(framings[n]!.framing);
let compared: Compared;

beforeAll(async () => {
  compared = await comparing(deck(3), deck(4), 'deck.dxf');
});

test('a row a change, with its causes', () => {
  const rows = reportRows(compared.comparison);
  expect(rows).toHaveLength(compared.comparison.changes.length);
  const at = (name: (typeof reportColumns)[number]): number => reportColumns.indexOf(name);
  const revision = rows.find((r) => r[at('name')] === 'REVISION')!;
  expect(revision[at('from')]).toBe('P02');
  expect(revision[at('causes')]).toMatch(/^Title: REVISION/);
  expect(rows.every((r) => r.length === reportColumns.length)).toBe(true);
});

test('CSV: quoted after RFC 4180, and nothing that a spreadsheet would run', () => {
  expect(
    csvTable(
      ['a', 'b'],
      [
        ['say "x", y', 'two\nlines'],
        ['=1+1', -3],
      ],
    ),
  ).toBe('\ufeffa,b\r\n"say ""x"", y","two\nlines"\r\n\'=1+1,-3\r\n');
});

test('the changes alone as DXF: A and B on layers of their own, at their places', () => {
  const design = designOf(changesAsDxf(compared.comparison, compared.parts!), 'x.dxf');
  expect(design.notes).toEqual([]);
  expect(design.origin.units).toBe('mm');
  expect(new Set(design.parts.map((p) => p.category))).toEqual(new Set(['A before', 'B only', 'B after']));
  expect(design.parts.filter((p) => p.category === 'B only')).toHaveLength(5);
  const arc = design.parts
    .filter((p) => p.category === 'B only')
    .find(
      (p) => p.kind === 'polyline' && p.subpaths === 1 && p.box![2] - p.box![0] > 1000 && p.box![3] - p.box![1] > 1000,
    )!;
  expect(arc.box!.map(Math.round)).toEqual([7500, 250, 8700, 1450]);
});

test('the changes alone as SVG: two groups', () => {
  const svg = changesAsSvg(compared.parts!);
  const design = designOf(svg, 'x.svg');
  expect(svg).toMatch(/<g id="A"[^]*<g id="B"/);
  expect(design.parts.some((p) => p.lettering?.runs[0]?.text === 'Gate 1200, opens seaward')).toBe(true);
  expect(design.parts.some((p) => p.lettering?.runs[0]?.text === 'P02')).toBe(true);
});

test('pictures of before and after show the same part of the page', () => {
  const crops = cropsOf(compared.comparison, compared.parts!, 3);
  expect(crops.map((c) => c.cause)).toEqual(compared.comparison.causes.slice(0, 3).map((c) => c.id));
  const view = (svg: string | null): string | undefined => /viewBox="([^"]+)"/.exec(svg ?? '')?.[1];
  for (const { a, b } of crops) expect(view(a)).toBe(view(b));
  const gate = crops[0]!;
  expect(gate.b).toContain('Gate 1200');
  expect(gate.a).not.toContain('Gate 1200');
});
