import { onItsOwn, takenOut, type PlannedMember } from '@ovrel/core';
import {
  asProposed,
  aside,
  proposedAs,
  leftOf,
  moved,
  putBack,
  stepsOf,
  toSend,
  type ChosenFile,
} from './chosen-plan.ts';

const member = (path: string, parent: string | null, line: number, version: number): PlannedMember => ({
  path,
  parent,
  line,
  version,
  sure: 0.9,
  why: ['content'],
});
// a ─ b ─ c, and d from a.
const file = asProposed({
  name: 'plan.svg',
  members: [member('a', null, 0, 1), member('b', 'a', 0, 2), member('c', 'b', 0, 3), member('d', 'a', 1, 2)],
  duplicates: [],
  remarks: [],
});
const without = (...paths: readonly string[]): ChosenFile => ({
  ...file,
  arrangement: paths.reduce(takenOut, file.arrangement),
});
const told = (one: ChosenFile): string[] => stepsOf(one).map(({ path, line, parent }) => `${path}${line} of ${parent}`);

test('what is taken out is listed, and put back where it came from', () => {
  const left = without('b');
  expect(leftOf(left)).toEqual(['b']);
  expect(told({ ...left, arrangement: putBack(left, 'b') })).toEqual(told(file));
});

test('put back, the first is the first again, and what left a line leaves it again', () => {
  const first = without('a');
  expect(told({ ...first, arrangement: putBack(first, 'a') }).slice(0, 3)).toEqual([
    'a0 of null',
    'b0 of a',
    'c0 of b',
  ]);
  const aLine = without('d');
  expect(told({ ...aLine, arrangement: putBack(aLine, 'd') })).toEqual(told(file));
  const nothing = without('a', 'b', 'c', 'd');
  expect(told({ ...nothing, arrangement: putBack(nothing, 'c') })).toEqual(['c0 of null']);
});

test('a copy goes one place earlier or later, or aside; where there is none it stays', () => {
  const { arrangement } = file;
  expect(told({ ...file, arrangement: moved(arrangement, 'c', -1) }).slice(0, 3)).toEqual([
    'a0 of null',
    'c0 of a',
    'b0 of c',
  ]);
  expect(moved(arrangement, 'c', 1)).toBe(arrangement);
  expect(told({ ...file, arrangement: aside(arrangement, 'c') })).toContain('c2 of b');
  expect(aside(arrangement, 'a')).toBe(arrangement);
});

test('a copy that was moved is told from one that stands where it was proposed', () => {
  const one = { ...file, arrangement: onItsOwn(file.arrangement, 'c', 'a') };
  expect(stepsOf(one).map((step) => [step.path, proposedAs(one, step) !== undefined])).toEqual([
    ['a', true],
    ['b', true],
    ['d', true],
    ['c', false],
  ]);
});

test('what is sent is in order, with what was said of it, else with the times of the files; what is taken out is not', () => {
  const signs = asProposed({ ...file.planned, name: 'signs.svg', members: [member('x', null, 0, 1)] });
  const said = new Map([
    ['c', { at: Date.UTC(2026, 8, 3), person: 'Wenna Tregar', reason: 'the fender' }],
    ['d', { at: undefined }],
  ]);
  const sent = toSend(
    [
      { ...without('b'), name: 'landing.svg', said },
      { ...signs, arrangement: [] },
    ],
    () => 0,
  );
  expect(sent.paths).toEqual(['a', 'c', 'd']);
  expect(sent.files).toEqual([
    {
      name: 'landing.svg',
      folderId: null,
      copies: [
        { path: 'a', parent: null, line: 0, at: '1970-01-01T00:00:00.000Z' },
        {
          path: 'c',
          parent: 0,
          line: 0,
          at: '2026-09-03T00:00:00.000Z',
          person: 'Wenna Tregar',
          reason: 'the fender',
        },
        { path: 'd', parent: 0, line: 1, at: null },
      ],
    },
  ]);
});
