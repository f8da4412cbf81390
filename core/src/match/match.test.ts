import { assign } from './assign.ts';
import { matchParts } from './parts.ts';
import { matchSequence } from '../kinds/text/sequence.ts';
import { pairMoved } from './moved.ts';
import { toleranceFor } from './tolerance.ts';
import { designOf } from '../testing.ts';
import type { Point3 } from '../mesh/mesh.ts';
import type { Design } from '../model/design.ts';

const design = (text: string, name = 'x.svg'): Design => designOf(text, name);

describe('assignment', () => {
  test('takes the pairs that cost least together, not the cheapest first', () => {
    const pairs = assign([
      { a: 0, b: 0, cost: 1 },
      { a: 0, b: 1, cost: 2 },
      { a: 1, b: 0, cost: 1.5 },
      { a: 1, b: 1, cost: 9 },
    ]);
    expect(pairs.map(({ a, b }) => [a, b]).sort()).toEqual([
      [0, 1],
      [1, 0],
    ]);
  });

  test('uses no part twice and only candidates', () => {
    const pairs = assign([
      { a: 0, b: 0, cost: 1 },
      { a: 1, b: 0, cost: 2 },
      { a: 2, b: 5, cost: 3 },
    ]);
    expect(pairs.map(({ a, b }) => [a, b]).sort()).toEqual([
      [0, 0],
      [2, 5],
    ]);
    expect(assign([])).toEqual([]);
  });

  test('stays quick where hundreds compete', () => {
    const candidates = Array.from({ length: 300 }, (_, a) =>
      Array.from({ length: 300 }, (__, b) => ({ a, b, cost: Math.abs(a - b) })),
    ).flat();
    const pairs = assign(candidates);
    expect(pairs).toHaveLength(300);
    expect(pairs.every(({ a, b }) => a === b)).toBe(true);
  });
});

describe('parts that moved', () => {
  const row = (n: number, x: number, y: number): Point3[] => Array.from({ length: n }, (_, i) => [x + i * 10, y, 0]);
  const pairs = (a: Point3[], b: Point3[], known: Point3[] = []): Map<number, number> =>
    new Map(
      pairMoved(
        [{ a: a.map((_, i) => i), b: b.map((_, j) => j) }],
        (i) => a[i],
        (j) => b[j],
        0.01,
        known,
      ),
    );

  test('keep their order when they move together', () => {
    const m = pairs(row(20, 0, 0), row(20, 3, 50));
    expect([...m].every(([i, j]) => i === j)).toBe(true);
  });

  test('follow a shift that is known already, even to places of their neighbours', () => {
    const m = pairs(row(20, 0, 0), row(20, 10, 0), [
      [10, 0, 0],
      [10, 0, 0],
    ]);
    expect([...m].every(([i, j]) => i === j)).toBe(true);
    expect(m.size).toBe(20);
  });

  test('in space what stands above one another is told apart', () => {
    const column = (x: number, up: number): Point3[] => Array.from({ length: 5 }, (_, k) => [x, 0, k * 10 + up]);
    const m = pairs(column(0, 0), column(0, 10));
    expect([...m].every(([i, j]) => i === j)).toBe(true);
  });

  test('go to the nearest where no common shift explains them', () => {
    const m = pairs(
      [
        [0, 0, 0],
        [100, 0, 0],
      ],
      [
        [97, 5, 0],
        [4, 1, 0],
      ],
    );
    expect(m.get(0)).toBe(1);
    expect(m.get(1)).toBe(0);
  });

  test('more on one side leaves the rest alone', () => expect(pairs(row(5, 0, 0), row(3, 0, 9)).size).toBe(3));
});

describe('lines in order', () => {
  const text = (lines: readonly string[]): Design => design(`${lines.join('\n')}\n`, 'x.txt');
  const match = (a: readonly string[], b: readonly string[]): number[] => [...matchSequence(text(a), text(b)).toB];

  test('equal lines pair, in order', () => expect(match(['a', 'b', 'c'], ['a', 'x', 'b', 'c'])).toEqual([0, 2, 3]));

  test('a changed line pairs with what it became, an unlike one does not', () => {
    expect(match(['first', 'the ferry leaves at nine', 'last'], ['first', 'the ferry leaves at ten', 'last'])).toEqual([
      0, 1, 2,
    ]);
    expect(match(['first', 'the ferry leaves at nine', 'last'], ['first', 'XYZ', 'last'])).toEqual([0, -1, 2]);
  });

  test('repeated lines do not confuse it', () => {
    const a = ['{', '  x', '}', '{', '  y', '}'];
    const b = ['{', '  x', '}', '{', '  z', '}', '{', '  y', '}'];
    const m = match(a, b);
    expect(m.filter((j) => j >= 0)).toHaveLength(6);
    expect(m.every((j, i) => i === 0 || j > (m[i - 1] as number))).toBe(true);
    expect(b[m[4] as number]).toBe('  y');
  });

  test('a hundred thousand lines, half of them changed, still pair line by line', () => {
    const a = Array.from({ length: 100_000 }, (_, i) => `row ${i} ${i * 7}`);
    const b = a.map((l, i) => (i % 2 ? `${l} edited` : l));
    const m = match(a, b);
    expect(m.every((j, i) => j === i)).toBe(true);
  });
});

describe('known edits on a drawing of a thousand parts', () => {
  let seed = 3;
  const random = (n: number): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed % n;
  };
  interface Thing {
    id: number;
    kind: number;
    x: number;
    y: number;
    w: number;
    colour: string;
  }
  const draw = (things: readonly Thing[], ids: (id: number) => string): string =>
    `<svg viewBox="0 0 5000 5000">${things
      .map(({ id, kind, x, y, w, colour }) => {
        const key = ids(id);
        if (kind === 0) return `<rect${key} x="${x}" y="${y}" width="${w}" height="${w / 2}" fill="${colour}"/>`;
        if (kind === 1) return `<circle${key} cx="${x}" cy="${y}" r="5" fill="${colour}"/>`;
        if (kind === 2) return `<text${key} x="${x}" y="${y}">Mark ${w}</text>`;
        return `<path${key} d="M${x} ${y} l${w} 10 l-7 ${w} c4 4 9 2 11 -7 z" fill="none" stroke="${colour}"/>`;
      })
      .join('')}</svg>`;
  const things = (): Thing[] =>
    Array.from({ length: 1000 }, (_, id) => ({
      id,
      kind: id % 4,
      x: random(4900),
      y: random(4900),
      w: 5 + random(90),
      colour: `#${(0x100000 + random(0xefffff)).toString(16)}`,
    }));

  const edits: Record<string, (all: Thing[]) => Thing[]> = {
    nothing: (all) => all,
    'another order': (all) => [...all].reverse(),
    'one in ten moved a little': (all) => all.map((t, i) => (i % 10 === 3 ? { ...t, x: t.x + 17, y: t.y - 9 } : t)),
    'one in five recoloured': (all) => all.map((t, i) => (i % 5 === 0 ? { ...t, colour: '#123456' } : t)),
    'one in ten removed': (all) => all.filter((_, i) => i % 10 !== 4),
    'a third moved together': (all) => all.map((t) => (t.x < 1600 ? { ...t, x: t.x + 60 } : t)),
    'all moved to another origin': (all) => all.map((t) => ({ ...t, x: t.x + 1250, y: t.y + 310 })),
  };
  for (const [what, edit] of Object.entries(edits)) {
    for (const [how, ids] of [
      ['ids kept', (id: number) => ` id="t${id}"`],
      ['ids gone', () => ''],
    ] as const) {
      test(`${what}, ${how}: nearly every part is found again`, () => {
        const before = things();
        const after = edit(before);
        const a = design(draw(before, (id) => ` id="t${id}"`));
        const b = design(draw(after, ids));
        const { toB } = matchParts(a, b, toleranceFor(a, b));
        const place = new Map(after.map((t, j) => [t.id, j]));
        const right = before.filter((t, i) => (place.get(t.id) ?? -1) === toB[i]).length;
        expect(right / before.length).toBeGreaterThanOrEqual(how === 'ids kept' ? 0.995 : 0.98);
      });
    }
  }
});
