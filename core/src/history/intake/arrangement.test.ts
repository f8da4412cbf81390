import { arranged, onItsOwn, placedAfter, placedBefore, stepsOfArrangement, takenOut } from './arrangement.ts';
import type { Arrangement } from './arrangement.ts';
import type { PlannedMember } from './plan.ts';

const member = (path: string, line: number, version: number, parent: string | null): PlannedMember => ({
  path,
  line,
  version,
  parent,
  sure: 1,
  why: ['content'],
});

// plan ─ quay ─ lamps, and from plan: crane ─ hook.
const proposed = arranged([
  member('plan', 0, 1, null),
  member('quay', 0, 2, 'plan'),
  member('crane', 1, 2, 'plan'),
  member('lamps', 0, 3, 'quay'),
  member('hook', 1, 3, 'crane'),
]);
const told = (arrangement: Arrangement): string[] =>
  arrangement.map(({ from, paths }) => `${from === null ? '' : `${from}: `}${paths.join(' ')}`);

test('a plan is lines, each told from where it leaves', () => {
  expect(told(proposed)).toEqual(['plan quay lamps', 'plan: crane hook']);
  expect(stepsOfArrangement(proposed)).toEqual([
    { path: 'plan', line: 0, version: 1, parent: null },
    { path: 'quay', line: 0, version: 2, parent: 'plan' },
    { path: 'lamps', line: 0, version: 3, parent: 'quay' },
    { path: 'crane', line: 1, version: 2, parent: 'plan' },
    { path: 'hook', line: 1, version: 3, parent: 'crane' },
  ]);
});

test('what came from a copy that is taken out comes from the one before it, or is the first', () => {
  expect(told(takenOut(proposed, 'quay'))).toEqual(['plan lamps', 'plan: crane hook']);
  expect(told(takenOut(proposed, 'plan'))).toEqual(['quay lamps', 'quay: crane hook']);
  expect(told(takenOut(takenOut(proposed, 'crane'), 'hook'))).toEqual(['plan quay lamps']);
});

test('where the main line is taken out altogether, a line that left it takes its place', () => {
  const left = ['plan', 'quay', 'lamps'].reduce(takenOut, proposed);
  expect(told(left)).toEqual(['crane hook']);
  expect(['crane', 'hook'].reduce(takenOut, left)).toEqual([]);
});

test('a copy is put between two others, on its line or on another', () => {
  expect(told(placedBefore(proposed, 'lamps', 'quay'))).toEqual(['plan lamps quay', 'plan: crane hook']);
  expect(told(placedAfter(proposed, 'hook', 'quay'))).toEqual(['plan quay hook lamps', 'plan: crane']);
  expect(told(placedBefore(proposed, 'quay', 'crane'))).toEqual(['plan lamps', 'plan: quay crane hook']);
  expect(placedAfter(proposed, 'quay', 'quay')).toEqual(proposed);
});

test('a copy that others came from is moved behind them: they stay where it was', () => {
  expect(told(placedAfter(proposed, 'plan', 'hook'))).toEqual(['quay lamps', 'quay: crane hook plan']);
});

test('a copy gets a line of its own, from wherever one says', () => {
  expect(told(onItsOwn(proposed, 'quay', 'plan'))).toEqual(['plan lamps', 'plan: crane hook', 'plan: quay']);
  expect(told(onItsOwn(proposed, 'crane', 'lamps'))).toEqual(['plan quay lamps', 'plan: hook', 'lamps: crane']);
  expect(told(onItsOwn(proposed, 'plan', 'hook'))).toEqual(['quay lamps', 'quay: crane hook', 'hook: plan']);
});

test('whatever is done, each copy stands once, behind the one that it came from', () => {
  const paths = ['plan', 'quay', 'lamps', 'crane', 'hook'];
  const pick = (k: number): string => paths[k % paths.length] as string;
  let arrangement = proposed;
  for (let k = 1; k < 3000; k++) {
    const act = [placedBefore, placedAfter, onItsOwn][(k * 7919) % 3] as typeof onItsOwn;
    arrangement = act(arrangement, pick(k * 31), pick((k * 104_729) >> 3));
    const steps = stepsOfArrangement(arrangement);
    expect(steps.map(({ path }) => path).sort()).toEqual([...paths].sort());
    const places = new Map(steps.map(({ path }, at) => [path, at]));
    for (const [at, { parent }] of steps.entries())
      expect(parent === null ? at : (places.get(parent) ?? Infinity) < at).toBe(parent === null ? 0 : true);
  }
});
