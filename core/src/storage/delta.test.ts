import { applyDelta, deltaBetween, packDelta, unpackDelta, type Delta } from './delta.ts';
import { compose, cut, Pieces } from './pieces.ts';

let seed = 1;
const random = (n: number): number => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return (seed >>> 8) % n;
};
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const text = (b: Uint8Array): string => new TextDecoder().decode(b);
const noise = (n: number): Uint8Array => Uint8Array.from({ length: n }, () => random(256));
const lines = (n: number): string[] =>
  Array.from({ length: n }, (_, i) => `#${i}=POINT(${random(90000) / 100},${random(90000) / 100});`);
const join = (...parts: Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((p) => [...p]));

describe('a delta gives its target back', () => {
  const base = noise(5000);
  const words = bytes('the ferry leaves at nine, the ferry returns at ten');
  test.each<[string, Uint8Array, Uint8Array]>([
    ['the same', base, base],
    ['empty against something', base, new Uint8Array()],
    ['something against empty', new Uint8Array(), base],
    ['a byte changed', base, join(base.slice(0, 700), Uint8Array.of(1, 2), base.slice(702))],
    ['bytes put in front', base, join(noise(300), base)],
    ['parts in another order', base, join(base.slice(3000), base.slice(0, 3000))],
    ['a part repeated', base, join(base, base.slice(100, 900), base)],
    ['nothing in common', base, noise(4000)],
    ['short words', words, bytes('the ferry leaves at noon, the ferry comes at ten')],
    ['one byte', Uint8Array.of(7), Uint8Array.of(7)],
  ])('%s', (_, from, to) => {
    const delta = deltaBetween(from, to);
    expect(applyDelta(from, delta)).toEqual(to);
    expect(applyDelta(from, unpackDelta(packDelta(delta)))).toEqual(to);
  });

  test('whatever was done to it, a hundred times', () => {
    for (let round = 0; round < 100; round++) {
      let target = noise(random(3000));
      const start = target;
      for (let edit = random(8); edit > 0; edit--) {
        const a = random(target.length + 1);
        const b = a + random(60);
        target = join(
          target.slice(0, a),
          random(3) ? noise(random(40)) : target.slice(0, random(200)),
          target.slice(random(2) ? a : b),
        );
      }
      expect(applyDelta(start, unpackDelta(packDelta(deltaBetween(start, target))))).toEqual(target);
    }
  });
});

test('numbers changed here and there cost little more than the new digits', () => {
  const before = lines(20_000);
  const after = [...before];
  for (let i = 0; i < 200; i++) after[i * 97] = after[i * 97]!.replace(/,.*\)/, `,${random(9_000_000) / 1000})`);
  const delta = deltaBetween(bytes(before.join('\n')), bytes(after.join('\n')));
  expect(delta.pool.length).toBeLessThan(200 * 12);
  expect(packDelta(delta).length).toBeLessThan(200 * 20);
});

test('deltas of deltas join into one, range by range, without the versions between', () => {
  const versions = [bytes(lines(3000).join('\n'))];
  const deltas: Delta[] = [];
  for (let v = 1; v <= 20; v++) {
    const rows = text(versions[v - 1]!).split('\n');
    for (let i = 0; i < 30; i++) rows.splice(random(rows.length), random(2), `#new${v}-${i}=POINT(${random(1000)},0);`);
    rows.push(...rows.splice(random(500), 100));
    versions.push(bytes(rows.join('\n')));
    deltas.push(deltaBetween(versions[v - 1]!, versions[v]!));
  }
  const newest = versions.at(-1)!;
  for (const [start, end] of [
    [0, newest.length],
    [1000, 1001],
    [5000, 60_000],
  ] as const) {
    let pieces = cut(deltas.at(-1)!.pieces, start, end);
    const pools = [deltas.at(-1)!.pool];
    for (const delta of deltas.slice(0, -1).reverse()) {
      pieces = compose(
        pieces,
        delta.pieces,
        pools.reduce((n, p) => n + p.length, 0),
      );
      pools.push(delta.pool);
    }
    expect(applyDelta(versions[0]!, { pieces, pool: join(...pools) })).toEqual(newest.slice(start, end));
  }
});

test('runs that continue one another become one piece', () => {
  const pieces = new Pieces();
  pieces.add(10, 100);
  pieces.add(5, 110);
  pieces.add(3, -1);
  pieces.add(2, -4);
  expect([pieces.count, pieces.size]).toEqual([2, 20]);
});

test('damaged deltas are told from good ones', () => {
  const packed = packDelta(deltaBetween(noise(400), noise(500)));
  expect(() => unpackDelta(packed.slice(0, 300))).toThrow(/cut off/);
  expect(() => unpackDelta(Uint8Array.of(9, 0, 0, 0, 0))).toThrow(/version 9/);
  const reaching = new Pieces();
  reaching.add(10, 5);
  expect(() => applyDelta(noise(8), { pieces: reaching, pool: new Uint8Array() })).toThrow(/beyond its base/);
  expect(() => compose(reaching, deltaBetween(noise(4), noise(8)).pieces, 0)).toThrow(/byte|base/);
});
