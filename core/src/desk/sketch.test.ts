import { zipSync, strToU8 } from 'fflate';
import { ALIKE, likeness, SKETCH, sketchOf } from './sketch.ts';

const lines = (n: number, seed: number): string[] =>
  Array.from(
    { length: n },
    (_, i) =>
      `<path id="p${i}" d="M ${(i * 7919 + seed) % 9973} ${(i * 104_729 * (seed + 1)) % 99_991}" class="c${seed}"/>`,
  );
const bytes = (list: readonly string[]): Uint8Array => strToU8(list.join('\n'));
const plan = lines(800, 3);

test('a content is wholly like itself, and not like another', () => {
  const a = sketchOf(bytes(plan));
  expect(a).toHaveLength(SKETCH);
  expect([...a]).toEqual([...a].sort((x, y) => x - y));
  expect(likeness(a, sketchOf(bytes(plan)))).toBe(1);
  expect(likeness(a, sketchOf(bytes(lines(800, 77))))).toBeLessThan(0.1);
});

test('a few edits, a part put in, or lines in another order leave it alike', () => {
  const edited = plan.map((line, i) => (i % 50 ? line : line.replace('path', 'line')));
  const longer = [...plan.slice(0, 300), ...lines(60, 9), ...plan.slice(300)];
  const a = sketchOf(bytes(plan));
  expect(likeness(a, sketchOf(bytes(edited)))).toBeGreaterThan(0.8);
  expect(likeness(a, sketchOf(bytes(longer)))).toBeGreaterThan(0.8);
  expect(likeness(a, sketchOf(bytes([...plan].reverse())))).toBeGreaterThan(ALIKE);
});

test('the share of what is in common is estimated', () => {
  const half = [...plan.slice(0, 400), ...lines(400, 21)];
  const found = likeness(sketchOf(bytes(plan)), sketchOf(bytes(half)));
  // 400 of 1200 different lines.
  expect(found).toBeGreaterThan(0.2);
  expect(found).toBeLessThan(0.5);
});

test('a container is judged by what its members hold, however they are compressed', () => {
  const zip = (list: readonly string[], level: 0 | 9): Uint8Array =>
    zipSync({ 'content.xml': bytes(list), 'styles.xml': bytes(lines(40, 5)) }, { level });
  expect(likeness(sketchOf(zip(plan, 9)), sketchOf(zip([...plan.slice(0, 790), 'changed'], 0)))).toBeGreaterThan(0.9);
  expect(likeness(sketchOf(zip(plan, 9)), sketchOf(zip(lines(800, 60), 9)))).toBeLessThan(ALIKE);
});

test('nothing at all, and a broken container, have a sketch too', () => {
  expect(sketchOf(new Uint8Array())).toHaveLength(0);
  expect(likeness(new Uint32Array(), new Uint32Array())).toBe(0);
  expect(sketchOf(Uint8Array.of(0x50, 0x4b, 3, 4, 9, 9)).length).toBe(1);
});
