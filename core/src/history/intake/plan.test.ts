import { nameSays } from './names.ts';
import { intakePlan, type FoundCopy, type PlannedFile } from './plan.ts';

const day = (d: number): number => Date.UTC(2026, 9, d);

/** A drawing with a line for each part. */
const drawing = (...parts: readonly string[]): string =>
  ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300">', ...base, ...parts, '</svg>'].join('\n');
const base = Array.from(
  { length: 60 },
  (_, k) => `<rect id="pile-${k}" x="${k * 17}" y="${(k * 37) % 200}" width="9" height="9"/>`,
);
const part = (name: string): string => `<text id="${name}" x="4" y="9">The ${name} of the Quillmere landing</text>`;

const copy = (path: string, content: string, at?: number): FoundCopy => ({
  path,
  bytes: new TextEncoder().encode(content),
  sha256: content,
  at,
});

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
