import type { Pairing } from './pairing.ts';

/** Pairs in the order of B, −1 for none; parts that only A has where they stood in A. */
export function* inOrder({ toA, toB }: Pick<Pairing, 'toA' | 'toB'>): Generator<readonly [a: number, b: number]> {
  let nextA = 0;
  for (const [j, i] of toA.entries()) {
    for (; nextA < i; nextA++) if (toB[nextA] === -1) yield [nextA, -1];
    yield [i, j];
  }
  for (; nextA < toB.length; nextA++) if (toB[nextA] === -1) yield [nextA, -1];
}
