/** Choosing pairs: nothing twice, and the least that it can cost. */
import { assign, type Candidate } from './assign.ts';
import { longestRising } from './rising.ts';

const cost = (pairs: readonly Candidate[]): number => pairs.reduce((sum, p) => sum + p.cost, 0);
const names = (pairs: readonly Candidate[]): string[] => pairs.map(({ a, b }) => `${a}–${b}`).sort();

describe('an assignment', () => {
  test('takes what costs least together, not what costs least first', () => {
    const candidates = [
      { a: 0, b: 0, cost: 1 },
      { a: 0, b: 1, cost: 2 },
      { a: 1, b: 0, cost: 2 },
      { a: 1, b: 1, cost: 10 },
    ];
    expect(names(assign(candidates))).toEqual(['0–1', '1–0']);
  });

  test('leaves out what has no candidate left, and takes lonely pairs as they are', () => {
    const pairs = assign([
      { a: 0, b: 0, cost: 1 },
      { a: 1, b: 0, cost: 0.5 },
      { a: 7, b: 9, cost: 3 },
    ]);
    expect(names(pairs)).toEqual(['1–0', '7–9']);
    expect(assign([])).toEqual([]);
  });

  test('uses nothing twice, and is never dearer than taking the cheapest first', () => {
    let seed = 11;
    const random = (): number => {
      seed = (seed * 48_271) % 2_147_483_647;
      return seed / 2_147_483_647;
    };
    for (let round = 0; round < 40; round++) {
      const candidates = Array.from({ length: 30 }, () => ({
        a: Math.floor(random() * 9),
        b: Math.floor(random() * 9),
        cost: Math.round(random() * 100),
      })).filter((c, i, all) => all.findIndex((d) => d.a === c.a && d.b === c.b) === i);
      const pairs = assign(candidates);
      expect(new Set(pairs.map((p) => p.a)).size).toBe(pairs.length);
      expect(new Set(pairs.map((p) => p.b)).size).toBe(pairs.length);
      const taken: Candidate[] = [];
      for (const c of candidates.toSorted((p, q) => p.cost - q.cost))
        if (!taken.some((t) => t.a === c.a || t.b === c.b)) taken.push(c);
      expect(pairs.length).toBeGreaterThanOrEqual(taken.length);
      if (pairs.length === taken.length) expect(cost(pairs)).toBeLessThanOrEqual(cost(taken));
    }
  });

  test('of very many that hang together still uses nothing twice', () => {
    const candidates = Array.from({ length: 200 }, (_, a) => [0, 1].map((d) => ({ a, b: a + d, cost: 1 + d }))).flat();
    const pairs = assign(candidates);
    expect(pairs).toHaveLength(200);
    expect(pairs.every((p) => p.a === p.b)).toBe(true);
  });
});

describe('what stayed in order', () => {
  test.each([
    [[], []],
    [[3], [3]],
    [
      [1, 2, 3],
      [1, 2, 3],
    ],
    [[3, 2, 1], [1]],
    [
      [2, 3, 4, 1],
      [2, 3, 4],
    ],
    [
      [5, 1, 6, 2, 7, 3, 8],
      [1, 2, 3, 8],
    ],
  ])('of %j is %j', (list, kept) => expect(longestRising(list)).toEqual(kept));

  test('rises, and is as long as it can be', () => {
    const list = Array.from({ length: 12 }, (_, i) => (i * 5) % 12);
    const found = longestRising(list);
    expect(found).toEqual(found.toSorted((p, q) => p - q));
    let longest = 0;
    for (let bits = 0; bits < 2 ** 12; bits++) {
      const chosen = list.filter((_, i) => bits & (1 << i));
      if (chosen.every((v, i) => i === 0 || v > (chosen[i - 1] as number))) longest = Math.max(longest, chosen.length);
    }
    expect(found).toHaveLength(longest);
  });
});
