import { inSittings, type SavedVersion } from './sittings.ts';

const minute = 60_000;
const saved = (at: number, person = 'Ines', more: Partial<SavedVersion> = {}): SavedVersion => ({
  kind: 'autosave',
  at: at * minute,
  person,
  title: null,
  ...more,
});
const sizes = (...versions: readonly SavedVersion[]): number[] => inSittings(versions).map((group) => group.length);

test('saves of one person without a long pause are one sitting', () => {
  expect(sizes(saved(0), saved(5), saved(34), saved(65))).toEqual([3, 1]);
});

test('somebody else, a check-in and a keeper stand by themselves', () => {
  expect(sizes(saved(0), saved(1, 'Tobias'), saved(2))).toEqual([1, 1, 1]);
  expect(sizes(saved(0), saved(1, 'Ines', { kind: 'check-in' }), saved(2), saved(3))).toEqual([1, 1, 2]);
  expect(sizes(saved(0), saved(1), saved(2, 'Ines', { title: 'For the council' }), saved(3))).toEqual([2, 1, 1]);
});

test('a clock that jumps back does not end a sitting, and one of hours ahead does', () => {
  expect(sizes(saved(50), saved(10), saved(12))).toEqual([3]);
  expect(sizes(saved(0), saved(600), saved(601))).toEqual([1, 2]);
});
