/** Texts line by line: the fewest lines that say what was done, in the order of the newer text. */
import { designOf } from '../../testing.ts';
import { assemble } from '../../causes/assemble.ts';
import { compareLines } from './compare.ts';
import { matchSequence } from './sequence.ts';

const lines = (...all: string[]): ReturnType<typeof designOf> => designOf(all.join('\n'), 'x.txt');
function compared(a: readonly string[], b: readonly string[]): { changes: string[]; causes: string[]; same: number } {
  const { changes, causes, unchanged } = compareLines(lines(...a), lines(...b));
  const made = assemble({ changes, causes, unchanged, notes: [] });
  return {
    changes: made.changes.map((c) => {
      const [what] = c.what;
      return what ? `${c.kind} ${what.from} → ${what.to}` : `${c.kind} ${c.part.name}`;
    }),
    causes: made.causes.map((c) => c.sentence),
    same: unchanged,
  };
}

const statement = [
  '# Method',
  '',
  'Set out the piles.',
  'Drive the piles.',
  'Cut the piles to level.',
  'Fix the caps.',
];

test('the same text has no changes', () => {
  expect(compared(statement, statement)).toEqual({ changes: [], causes: [], same: 6 });
});

test('a line put in, and one taken out, are just that', () => {
  const b = [...statement.slice(0, 4), 'Check each pile for plumb.', ...statement.slice(4)];
  expect(compared(statement, b)).toMatchObject({ causes: ['1 line added'], same: 6 });
  expect(compared(b, statement)).toMatchObject({ causes: ['1 line removed'], same: 6 });
});

test('a line that resembles the one it replaced is that line, changed', () => {
  const b = statement.map((line) => line.replace('Drive the piles.', 'Drive the piles by vibration.'));
  const { changes, same } = compared(statement, b);
  expect(changes).toEqual(['changed Drive the piles. → Drive the piles by vibration.']);
  expect(same).toBe(5);
});

test('a line that resembles nothing came, and another went', () => {
  const b = statement.map((line) => (line === 'Fix the caps.' ? 'Notify the harbour.' : line));
  expect(compared(statement, b).causes).toEqual(['1 line added', '1 line removed']);
});

test('equal lines keep their order: of three blank ones, one put in is one', () => {
  const { causes, same } = compared(['a', '', 'b', '', 'c', '', 'd'], ['a', '', '', 'b', '', 'c', '', 'd']);
  expect(causes).toEqual(['1 line added']);
  expect(same).toBe(7);
});

test('a block that was moved leaves the longer part where it is', () => {
  const block = ['x1', 'x2', 'x3'];
  const rest = ['y1', 'y2', 'y3', 'y4', 'y5'];
  const { toB } = matchSequence(lines(...block, ...rest), lines(...rest, ...block));
  expect([...toB].filter((j) => j >= 0)).toHaveLength(5);
  expect([...toB].slice(3)).toEqual([0, 1, 2, 3, 4]);
});

test('pairs are the same from either side, and rise', () => {
  const a = Array.from({ length: 300 }, (_, i) => `row ${(i * 7919) % 97} of the schedule`);
  const b = a.filter((_, i) => i % 11 !== 0).flatMap((line, i) => (i % 17 === 0 ? [line, `put in ${i}`] : [line]));
  const { toA, toB } = matchSequence(lines(...a), lines(...b));
  toB.forEach((j, i) => expect(j < 0 || toA[j] === i).toBe(true));
  const paired = [...toB].filter((j) => j >= 0);
  expect(paired).toEqual([...paired].sort((p, q) => p - q));
  expect(paired.length).toBeGreaterThan(260);
});
