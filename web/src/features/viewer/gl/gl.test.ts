import { arrange, longerThan, partAt } from './arrange.ts';
import { pattern } from './styles.ts';

/** Segments of many lengths all over a page, and one across it. */
function scene(n: number): { ends: Float32Array; along: Float32Array; style: Uint16Array; part: Uint32Array } {
  const ends = new Float32Array(4 * n);
  const along = new Float32Array(n);
  const style = new Uint16Array(n);
  const part = new Uint32Array(n);
  for (let i = 0; i < n; i++) {
    const x = (i * 7919) % 10_000;
    const y = (i * 104_729) % 10_000;
    const l = i === 5 ? 9000 : 1 + (i % 40);
    ends.set([x, y, x + l, y], 4 * i);
    along[i] = i;
    style[i] = i % 3;
    part[i] = i;
  }
  return { ends, along, style, part };
}

describe('the order in which segments are drawn', () => {
  const made = scene(20_000);
  const arranged = arrange(made);

  test('every segment is there once, with its own style, part and place along its line', () => {
    const seen = new Set<number>();
    for (let k = 0; k < 20_000; k++) {
      const i = arranged.part[2 * k]!;
      seen.add(i);
      expect(arranged.ends[4 * k]).toBe(made.ends[4 * i]);
      expect(arranged.style[2 * k]).toBe(i % 3);
      expect(arranged.along[2 * k]).toBe(i);
      expect(arranged.along[2 * k + 1]).toBeCloseTo(i + made.ends[4 * i + 2]! - made.ends[4 * i]!, 2);
    }
    expect(seen.size).toBe(20_000);
  });

  test('blocks are small, hold what they say, and have the longest first', () => {
    expect(arranged.blocks.length).toBeGreaterThan(8);
    expect(arranged.blocks.reduce((sum, b) => sum + b.count, 0)).toBe(20_000);
    for (const { first, count, box } of arranged.blocks) {
      for (let k = first; k < first + count; k++) {
        expect(arranged.ends[4 * k]).toBeGreaterThanOrEqual(box[0]);
        expect(arranged.ends[4 * k + 3]).toBeLessThanOrEqual(box[3]);
        if (k > first) expect(arranged.lengths[k]).toBeLessThanOrEqual(arranged.lengths[k - 1]!);
      }
    }
    // The long line does not make a small block large.
    expect(arranged.blocks.filter((b) => b.box[2] - b.box[0] > 6000)).toEqual([expect.objectContaining({ count: 1 })]);
  });

  test('the first of a block are those that are long enough', () => {
    for (const block of arranged.blocks) {
      const n = longerThan(arranged, block, 20);
      for (let k = 0; k < block.count; k++) expect(arranged.lengths[block.first + k]! >= 20).toBe(k < n);
    }
  });

  test('the nearest part is picked, hidden ones aside', () => {
    const x = made.ends[4 * 77]! + 3;
    const y = made.ends[4 * 77 + 1]!;
    expect(partAt(arranged, x, y + 1, 5, () => true)).toBe(77);
    expect(partAt(arranged, x, y + 1, 5, (k) => arranged.part[2 * k] !== 77)).not.toBe(77);
    expect(partAt(arranged, -500, -500, 5, () => true)).toBeUndefined();
  });
});

test('dash patterns: ink, gaps and dots', () => {
  const row = pattern([6, -3, 0, -3], 12);
  expect(row).toHaveLength(128);
  expect(row.slice(0, 60).every((v) => v === 255)).toBe(true);
  expect(row.slice(66, 94).every((v) => v === 0)).toBe(true);
  expect(row.slice(96, 99)).toEqual([255, 255, 255]);
  expect(row.slice(102).every((v) => v === 0)).toBe(true);
});
