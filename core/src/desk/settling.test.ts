import { isScratch, Settling, type Glimpse } from './settling.ts';

const QUIET = 1000;
const glimpse = (size: number, at: number, inode = 1): Glimpse => ({ size, at, inode });

/** What is told, moment by moment: each entry is what lies in the folder then. */
function told(...moments: readonly (readonly [now: number, files: Readonly<Record<string, Glimpse>>])[]): string[][] {
  const settling = new Settling(QUIET);
  settling.begin(0, new Map([['plan.svg', glimpse(10, 0)]]));
  return moments.map(([now, files]) => settling.settled(now, new Map(Object.entries(files))));
}

test('a file that is written in pieces is told once, when it has been quiet', () => {
  const moments = told(
    [500, { 'plan.svg': glimpse(4, 500) }],
    [900, { 'plan.svg': glimpse(8, 900) }],
    [1500, { 'plan.svg': glimpse(12, 1400) }],
    [2600, { 'plan.svg': glimpse(12, 1400) }],
    [4000, { 'plan.svg': glimpse(12, 1400) }],
  );
  expect(moments).toEqual([[], [], [], ['plan.svg'], []]);
});

test('written under another name and renamed, or deleted and written anew, it is one save', () => {
  const renamed = told(
    [500, { 'plan.svg': glimpse(10, 0), 'plan.svg.tmp': glimpse(12, 500, 2) }],
    [700, { 'plan.svg': glimpse(12, 500, 2) }],
    [2000, { 'plan.svg': glimpse(12, 500, 2) }],
  );
  const anew = told([500, {}], [700, { 'plan.svg': glimpse(12, 700, 3) }], [1800, { 'plan.svg': glimpse(12, 700, 3) }]);
  expect([renamed, anew]).toEqual([
    [[], [], ['plan.svg']],
    [[], [], ['plan.svg']],
  ]);
});

test('an empty file is waited for, and what was there before is not told', () => {
  expect(
    told(
      [500, { 'plan.svg': glimpse(0, 500) }],
      [5000, { 'plan.svg': glimpse(0, 500) }],
      [6000, { 'plan.svg': glimpse(9, 5500) }],
    ),
  ).toEqual([[], [], []]);
  expect(told([5000, { 'plan.svg': glimpse(10, 0) }])).toEqual([[]]);
});

test('a clock that jumps back begins the wait anew; nothing is told too early, nothing is lost', () => {
  const moments = told(
    [50_000, { 'plan.svg': glimpse(12, 1) }],
    [100, { 'plan.svg': glimpse(12, 1) }],
    [600, { 'plan.svg': glimpse(12, 1) }],
    [1200, { 'plan.svg': glimpse(12, 1) }],
  );
  expect(moments).toEqual([[], [], [], ['plan.svg']]);
});

test.each([
  ['plan.svg', false],
  ['Signs/harbour.dxf', false],
  ['plan.svg~', true],
  ['plan.bak', true],
  ['~$method.docx', true],
  ['.plan.svg.swp', true],
  ['plan.dxf.tmp', true],
  ['4913', true],
  ['final backup.svg', false],
])('%s is scratch: %s', (path, expected) => expect(isScratch(path)).toBe(expected));
