import { nameSays } from './names.ts';
import { cellsOf } from './cells.ts';
import { intakePlan, type FoundCopy, type PlannedFile } from './plan.ts';
import { piecesOf, sketchOf } from '../../desk/sketch.ts';

const day = (d: number): number => Date.UTC(2026, 9, d);

/** A drawing with a line for each part. */
const drawing = (...parts: readonly string[]): string =>
  ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300">', ...base, ...parts, '</svg>'].join('\n');
const base = Array.from(
  { length: 60 },
  (_, k) => `<rect id="pile-${k}" x="${k * 17}" y="${(k * 37) % 200}" width="9" height="9"/>`,
);
const part = (name: string): string => `<text id="${name}" x="4" y="9">The ${name} of the Quillmere landing</text>`;

const copy = (path: string, content: string, at?: number): FoundCopy => {
  const bytes = new TextEncoder().encode(content);
  return { path, at, sha256: content, pieces: piecesOf(bytes), sketch: sketchOf(bytes) };
};

const parents = ({ members }: PlannedFile): Record<string, string | null> =>
  Object.fromEntries(members.map((m) => [m.path, m.parent]));
const only = (copies: readonly FoundCopy[]): PlannedFile => {
  const { files } = intakePlan(copies);
  expect(files).toHaveLength(1);
  return files[0] as PlannedFile;
};

test('numbered copies are one file, in the order in which they grew', () => {
  const file = only([
    copy('landing-plan-v2.svg', drawing(part('shelter')), day(2)),
    copy('landing-plan.svg', drawing(), day(1)),
    copy('landing-plan-v3.svg', drawing(part('shelter'), part('gangway')), day(3)),
  ]);
  expect(file.name).toBe('landing-plan.svg');
  expect(parents(file)).toEqual({
    'landing-plan.svg': null,
    'landing-plan-v2.svg': 'landing-plan.svg',
    'landing-plan-v3.svg': 'landing-plan-v2.svg',
  });
  expect(file.members.map((m) => [m.version, m.line])).toEqual([
    [1, 0],
    [2, 0],
    [3, 0],
  ]);
});

test('what files say of themselves when they were written outweighs times that a copying program set anew', () => {
  const saved = (path: string, content: string, inside: number, by: string, at: number): FoundCopy => ({
    ...copy(path, content, day(at)),
    inside: { at: day(inside), by },
  });
  const file = only([
    saved('plan b.svg', drawing(part('shelter')), 2, 'Marit Sands', 9),
    saved('plan a.svg', drawing(part('shelter'), part('gangway')), 3, 'Tobias Renn', 8),
    saved('plan c.svg', drawing(), 1, 'Ines Falk', 10),
  ]);
  expect(file.members.map(({ path, parent, by }) => [path, parent, by])).toEqual([
    ['plan c.svg', null, 'Ines Falk'],
    ['plan b.svg', 'plan c.svg', 'Marit Sands'],
    ['plan a.svg', 'plan b.svg', 'Tobias Renn'],
  ]);
  expect(file.members[1]?.why).toContain('date in the file');
});

test('two copies that both came from a third are branches; the newest is on the main line', () => {
  const file = only([
    copy('plan.svg', drawing(part('shelter')), day(1)),
    copy('plan crane.svg', drawing(part('shelter'), part('crane')), day(2)),
    copy('plan quay.svg', drawing(part('shelter'), part('quay')), day(3)),
    copy('plan quay 2.svg', drawing(part('shelter'), part('quay'), part('lamps')), day(4)),
  ]);
  expect(parents(file)).toEqual({
    'plan.svg': null,
    'plan crane.svg': 'plan.svg',
    'plan quay.svg': 'plan.svg',
    'plan quay 2.svg': 'plan quay.svg',
  });
  const lines = Object.fromEntries(file.members.map((m) => [m.path, m.line]));
  expect([lines['plan quay 2.svg'], lines['plan crane.svg']]).toEqual([0, 1]);
});

test('a name that lies is said: what is called final is older than what is not', () => {
  const { remarks } = only([
    copy('plan-v1.svg', drawing(), day(1)),
    copy('plan-final.svg', drawing(part('shelter')), day(2)),
    copy('plan-v3.svg', drawing(part('shelter'), part('gangway')), day(5)),
  ]);
  expect(remarks).toEqual(['plan-final.svg is older than plan-v3.svg: what is new in plan-v3.svg is missing from it.']);
});

test('a file time that is wrong is outvoted by what the contents have in common', () => {
  const grown = ['shelter', 'gangway', 'lamps', 'quay', 'ramp'].map((_, k, all) =>
    drawing(...all.slice(0, k).map(part)),
  );
  const file = only(grown.map((content, k) => copy(`plan ${k}.svg`, content, k === 2 ? day(20) : day(k + 1))));
  expect(parents(file)).toEqual({
    'plan 0.svg': null,
    'plan 1.svg': 'plan 0.svg',
    'plan 2.svg': 'plan 1.svg',
    'plan 3.svg': 'plan 2.svg',
    'plan 4.svg': 'plan 3.svg',
  });
});

test('where nothing says in which direction, neighbours are right and no direction is claimed', () => {
  const grown = ['shelter', 'gangway', 'lamps'].map((_, k, all) => drawing(...all.slice(0, k).map(part)));
  const names = ['tern.svg', 'gull.svg', 'heron.svg'];
  const { members } = only(grown.map((content, k) => copy(names[k] as string, content)));
  expect(members.filter((m) => m.parent !== null).every((m) => m.sure <= 0.5)).toBe(true);
  const neighbours = members.flatMap((m) => (m.parent ? [[m.path, m.parent].sort().join(' ')] : [])).sort();
  expect(neighbours).toEqual(['gull.svg heron.svg', 'gull.svg tern.svg']);
});

test('copies of one content are folded; files with nothing in common are kept apart', () => {
  const other = Array.from({ length: 60 }, (_, k) => `beam ${k * 7919} of steel, ${k * 31} mm long`).join('\n');
  const plan = intakePlan([
    copy('plan.svg', drawing(), day(1)),
    copy('copy of plan.svg', drawing(), day(2)),
    copy('schedule.csv', other, day(1)),
    copy(
      'notes.svg',
      '<svg xmlns="http://www.w3.org/2000/svg"><desc>Nothing of the plan, but words about tides and wind</desc></svg>',
      day(1),
    ),
  ]);
  expect(plan.files.map((f) => [f.name, f.members.length, f.duplicates])).toEqual([
    ['plan.svg', 1, [{ path: 'copy of plan.svg', of: 'plan.svg' }]],
  ]);
  expect(plan.left).toEqual(['notes.svg', 'schedule.csv']);
});

test('two files that are called the same get different names', () => {
  const other = (...more: readonly string[]): string =>
    [...Array.from({ length: 50 }, (_, k) => `bollard ${k}, ${k * 911} kN, ${k * 13} m`), ...more].join('\n');
  const { files } = intakePlan([
    copy('ours/plan.svg', drawing(), day(1)),
    copy('ours/plan-v2.svg', drawing(part('shelter')), day(2)),
    copy('theirs/plan.svg', other(), day(1)),
    copy('theirs/plan-v2.svg', other('and one more'), day(2)),
  ]);
  expect(files.map(({ name }) => name)).toEqual(['plan.svg', 'plan-2.svg']);
});

test('nothing gives an empty plan', () => expect(intakePlan([])).toEqual({ files: [], left: [] }));

test.each([
  ['landing-plan-v12.svg', 'landing plan', 12],
  ['Landing Plan (3).svg', 'landing plan', 3],
  ['landing_plan_final-2.svg', 'landing plan', 2],
  ['landing-plan.0007.dxf', 'landing plan', 7],
  ['copy of landing plan.svg', 'landing plan', undefined],
  ['landing-plan.svg~', 'landing plan', undefined],
  ['landing-plan 2026-10-12.svg', 'landing plan', undefined],
  ['20261012_landing-plan.svg', 'landing plan', undefined],
  ['deck rev 4.dxf', 'deck', 4],
])('%s is of “%s”, number %s', (path, stem, number) => expect(nameSays(path)).toMatchObject({ stem, number }));

test('hundreds of copies are put in order without comparing each with each', () => {
  const bollards = Array.from(
    { length: 230 },
    (_, k) => `${Math.imul(k + 1, 0x9e3779b1)} ${Math.imul(k + 7, 0x85ebca6b)} bollard`,
  );
  const copies = Array.from({ length: 210 }, (_, k) =>
    copy(`plan (${k + 1}).svg`, bollards.slice(0, k + 12).join('\n'), day(1) + k * 3_600_000),
  );
  const file = only(copies);
  expect(file.members.map(({ path }) => path)).toEqual(copies.map(({ path }) => path));
  expect(file.members.every(({ line }) => line === 0)).toBe(true);
});

interface Poster {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A picture on white paper, with squares of a colour; `noise` is what packing with loss does to it. */
function poster(squares: readonly (readonly [x: number, y: number, shade: number])[], noise = 0): Poster {
  const data = new Uint8Array(400 * 300 * 4).fill(255);
  for (let k = 0; k < data.length; k++) if (k % 4 < 3) data[k] = 250 - ((k * 7919) % (noise + 1));
  for (const [x, y, shade] of squares)
    for (let row = y; row < y + 40; row++)
      for (let column = x; column < x + 60; column++)
        data.fill(shade, 4 * (row * 400 + column), 4 * (row * 400 + column) + 3);
  return { width: 400, height: 300, data };
}
const pictured = (path: string, squares: Parameters<typeof poster>[0], noise = 0): FoundCopy => {
  const pieces = cellsOf(poster(squares, noise), noise > 0);
  return { path, at: undefined, sha256: path, pieces, sketch: pieces.slice(0, 128) };
};

test('pictures are one file by what is on them, and what came from which is seen by it', () => {
  const ferry = [20, 20, 40] as const;
  const lamp = [200, 200, 90] as const;
  const gull = [300, 40, 140] as const;
  const file = only([
    pictured('poster (3).png', [ferry, lamp, gull]),
    pictured('poster (1).png', [ferry]),
    pictured('poster (2).png', [ferry, lamp]),
  ]);
  expect(file.members.map(({ path }) => path)).toEqual(['poster (1).png', 'poster (2).png', 'poster (3).png']);
});

test('white paper is nothing in common; what was packed with loss is still seen as the same', () => {
  const { files, left } = intakePlan([
    pictured('ferry.jpg', [[20, 20, 40]], 3),
    pictured('ferry printed.jpg', [[20, 20, 40]], 5),
    pictured('timetable.jpg', [[300, 200, 120]], 3),
  ]);
  expect(files.map(({ members }) => members.map(({ path }) => path).sort())).toEqual([
    ['ferry printed.jpg', 'ferry.jpg'],
  ]);
  expect(left).toEqual(['timetable.jpg']);
});
