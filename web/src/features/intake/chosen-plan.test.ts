import type { IntakePlan, PlannedMember } from '@ovrel/core';
import { toSend, without } from './chosen-plan.ts';

const member = (path: string, parent: string | null, line = 0): PlannedMember => ({
  path,
  parent,
  line,
  version: 1,
  sure: 0.9,
  why: ['content'],
});
const file = {
  name: 'plan.svg',
  members: [member('a', null), member('b', 'a'), member('c', 'b'), member('d', 'a', 1)],
  duplicates: [],
  remarks: [],
};
const parents = (left: readonly string[]): [string, string | null][] =>
  without(file, new Set(left)).map((m) => [m.path, m.parent]);

test('what came from a copy that is left out came from where that came from', () => {
  expect(parents(['b'])).toEqual([
    ['a', null],
    ['c', 'a'],
    ['d', 'a'],
  ]);
  expect(parents(['a'])).toEqual([
    ['b', null],
    ['c', 'b'],
    ['d', 'b'],
  ]);
});

test('what is sent is in order, with other names and the times of the files; a file that is left out is not sent', () => {
  const plan: IntakePlan = { files: [file, { ...file, name: 'signs.svg', members: [member('x', null)] }], left: [] };
  const { files, paths } = toSend(plan, new Set(['x', 'b']), new Map([['plan.svg', 'landing.svg']]), () => 0);
  expect(paths).toEqual(['a', 'c', 'd']);
  expect(files.map((f) => [f.name, f.copies.map((c) => [c.path, c.parent, c.line, c.at])])).toEqual([
    [
      'landing.svg',
      [
        ['a', null, 0, '1970-01-01T00:00:00.000Z'],
        ['c', 0, 0, '1970-01-01T00:00:00.000Z'],
        ['d', 0, 1, '1970-01-01T00:00:00.000Z'],
      ],
    ],
  ]);
});
