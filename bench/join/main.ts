/**
 * Joins of two sides that edit one drawing: whether they come out clean and right, beside a merge of lines; and
 * taking an old edit back under later ones.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { merge } from 'node-diff3';
import { compareFiles, joinFiles, open, takeBack, type Content } from '@ovrel/core';
import { root } from '../../bin/lib/prepare.mjs';
import { drawFraming, framings } from '../../demo/drawings/framing.ts';
import { drawPlan, plans } from '../../demo/drawings/plan.ts';
import { boards, drawBoard } from '../../demo/drawings/signs.ts';
import { dxfDrawing, svgDrawing, write, type Drawing } from '../accuracy/drawing.ts';
import { plantDrawing } from '../accuracy/plant.ts';
import { randomFrom, type Random } from '../accuracy/scripts.ts';
import { line, median, time } from '../measure.ts';
import { benchDrawnBy } from './drawn.ts';
import { twoSides, type Sides } from './edits.ts';

const SEEDS = 40;
const EDITS = 4;
const CLASHING = 2;
const LARGE = 100_000;
/** The merge of lines takes seconds for more, since most lines of a drawing are alike. */
const MOST_LINES = 6000;
const SEEDS_BY_LINES = 3;

const text = (s: string): Uint8Array => new TextEncoder().encode(s);

/** Of a folder, where one is given: its DXF and SVG drawings. */
function drawings(folder: string | undefined): Drawing[] {
  if (folder)
    return readdirSync(folder).flatMap((name) => {
      const bytes = readFileSync(join(folder, name));
      if (name.endsWith('.svg')) return [svgDrawing(name, bytes)];
      return name.endsWith('.dxf') ? [dxfDrawing(name, new TextDecoder().decode(bytes))] : [];
    });
  const [first, , third, , fifth] = framings;
  return [
    ...[first, third, fifth].flatMap((f) => (f ? [dxfDrawing('deck framing', drawFraming(f.framing))] : [])),
    dxfDrawing('plant, 300 entities', plantDrawing(300)),
    dxfDrawing('plant, 3,000 entities', plantDrawing(3000)),
    ...plans.slice(2, 3).map((plan) => svgDrawing('landing plan', text(drawPlan(plan)))),
    svgDrawing('signs', text(drawBoard(boards.approved))),
    ...['lighthouse', 'drawbridge', 'sailboat-labels'].map((n) =>
      svgDrawing(n, readFileSync(join(root, `demo/real/${n}.svg`))),
    ),
  ];
}

class Tally {
  runs = 0;
  clean = 0;
  right = 0;
  kept = 0;
  refused = 0;
  lines = 0;
  linesClean = 0;
  linesRight = 0;
  clashes = 0;
  shared = 0;
  found = 0;
}

/** `folder`: other drawings than those that the bench has. */
export async function benchJoins(folder?: string): Promise<void> {
  const apart = { dxf: new Tally(), svg: new Tally() };
  const clashing = { dxf: new Tally(), svg: new Tally() };
  const backs = { right: 0, runs: 0 };
  for (const drawing of drawings(folder)) {
    for (let seed = 1; seed <= SEEDS; seed++) {
      const random = randomFrom(seed * 7919 + drawing.name.length);
      await one(drawing, twoSides(drawing, random, EDITS, 0), apart[drawing.format], seed <= SEEDS_BY_LINES);
      await one(drawing, twoSides(drawing, random, EDITS, CLASHING), clashing[drawing.format], false);
      if (seed <= SEEDS / 4) await back(drawing, random, backs);
    }
  }
  for (const format of ['dxf', 'svg'] as const) {
    const a = apart[format];
    const share = (n: number, of: number): string => `${n}/${of}`;
    line(`${format}: sides that edit different parts, joined without a clash`, share(a.clean, a.runs), 'goal all');
    line(`${format}: · equal to both edits, nothing else`, share(a.right, a.runs), 'goal all');
    line(`${format}: · every record that nobody touched as it was, byte for byte`, share(a.kept, a.runs), 'goal all');
    line(`${format}: · merged line by line: without a clash`, share(a.linesClean, a.lines));
    line(`${format}: · merged line by line: readable and right`, share(a.linesRight, a.lines));
    const c = clashing[format];
    line(`${format}: sides that edit the same parts: clashes found`, share(c.found, c.shared), 'goal all');
    line(`${format}: · clashes told for each`, (c.clashes / c.shared).toFixed(2), 'goal ≤ 1.1');
  }
  line(
    'an edit of v3 taken back at v12: gone, and the eight later ones there',
    `${backs.right}/${backs.runs}`,
    'goal all',
  );
  benchDrawnBy(drawings(folder));
  if (!folder) await benchLarge();
}

async function one(base: Drawing, sides: Sides, tally: Tally, withLines: boolean): Promise<void> {
  const name = `drawing.${base.format}`;
  const drawn = [base, sides.ours, sides.theirs, sides.both].map((d) => write(d));
  const [b, o, t, both] = (await Promise.all(drawn.map((bytes) => open(bytes, name)))) as [
    Content,
    Content,
    Content,
    Content,
  ];
  tally.runs++;
  tally.shared += sides.shared;
  const joined = await joinFiles(b, o, t).catch(() => undefined);
  if (!joined) {
    tally.refused++;
    return;
  }
  if (joined.clashes.length === 0) tally.clean++;
  tally.clashes += joined.clashes.length;
  tally.found += Math.min(sides.shared, joined.clashes.filter((c) => c.kind === 'both-changed').length);
  if (sides.shared === 0) {
    if (await isSame(both, joined.bytes, name)) tally.right++;
    if (keepsRecords(base, sides, joined.bytes)) tally.kept++;
    if (withLines) await byLines(drawn, both, name, tally);
  }
}

async function isSame(expected: Content, bytes: Uint8Array, name: string): Promise<boolean> {
  const made = await open(bytes, name);
  if (made.kinds[0] !== 'drawing') return false;
  return (await compareFiles(expected, made)).comparison.changes.length === 0;
}

/** Records that are the same in the base and on both sides stand in the result, in their order. */
function keepsRecords(base: Drawing, { ours, theirs }: Sides, bytes: Uint8Array): boolean {
  const written = new TextDecoder().decode(bytes);
  const untouched = (d: Drawing): Set<string> => new Set(d.items.map((i) => i.source));
  const [inOurs, inTheirs] = [untouched(ours), untouched(theirs)];
  let at = 0;
  for (const { source } of base.items) {
    if (!source.trim() || !inOurs.has(source) || !inTheirs.has(source)) continue;
    const found = written.indexOf(source.trim(), at);
    if (found < 0) return false;
    at = found;
  }
  return true;
}

async function byLines(drawn: readonly Uint8Array[], both: Content, name: string, tally: Tally): Promise<void> {
  const [b, o, t] = drawn.map((bytes) => new TextDecoder().decode(bytes).split('\n')) as [string[], string[], string[]];
  if (b.length > MOST_LINES) return;
  tally.lines++;
  const merged = merge(o, b, t, { excludeFalseConflicts: true });
  if (merged.conflict) return;
  tally.linesClean++;
  if (await isSame(both, text(merged.result.join('\n')), name)) tally.linesRight++;
}

/** Eight edits after one that is then taken back. */
async function back(base: Drawing, random: Random, tally: { right: number; runs: number }): Promise<void> {
  const name = `drawing.${base.format}`;
  const sides = twoSides(base, random, 8, 0);
  const first = twoSides(base, random, 1, 0).theirs;
  const touched = new Set(
    base.items.flatMap((item, k) => (first.items.some((i) => i.source === item.source) ? [] : [k])),
  );
  const isApart = [...touched].every((k) =>
    sides.ours.items.some((i) => i.from === base.items[k]?.from && i.source === base.items[k]?.source),
  );
  if (touched.size === 0 || !isApart) return;
  const later: Drawing = {
    ...base,
    items: sides.ours.items.flatMap((item) => {
      const k = base.items.findIndex((b) => b.from === item.from && item.from >= 0);
      if (!touched.has(k)) return [item];
      return first.items.filter((i) => i.from === item.from);
    }),
  };
  const [v2, v3, v12, wanted] = (await Promise.all(
    [base, first, later, sides.ours].map((d) => open(write(d), name)),
  )) as [Content, Content, Content, Content];
  const compared = await compareFiles(v2, v3);
  if (compared.comparison.changes.length === 0) return;
  tally.runs++;
  const joined = await takeBack(v2, v3, v12, compared.parts?.parts ?? []).catch(() => undefined);
  if (joined?.clashes.length === 0 && (await isSame(wanted, joined.bytes, name))) tally.right++;
}

async function benchLarge(): Promise<void> {
  const base = dxfDrawing('plant', plantDrawing(LARGE));
  const sides = twoSides(base, randomFrom(5), 40, 0);
  const drawn = [base, sides.ours, sides.theirs].map(write);
  const ratios: number[] = [];
  for (let round = 0; round < 3; round++) {
    const read: Content[] = [];
    const reading = await time(async () => {
      for (const bytes of drawn) read.push(await open(bytes, 'plant.dxf'));
    });
    const joining = await time(() => joinFiles(...(read as [Content, Content, Content])));
    ratios.push(joining / reading);
  }
  line('a join of 100,000 entities ÷ reading the three files', median(ratios).toFixed(2), 'goal ≤ 2');
}
