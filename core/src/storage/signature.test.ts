import { applyDelta, packDelta, unpackDelta } from './delta.ts';
import { blockSizeFor, deltaFromSignature, signatureOf } from './signature.ts';

/** Bytes that do not repeat, always the same for one seed. */
function noise(size: number, seed: number): Uint8Array {
  let state = seed >>> 0;
  return Uint8Array.from({ length: size }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state >>> 24;
  });
}
const joined = (...parts: readonly Uint8Array[]): Uint8Array => Uint8Array.from(parts.flatMap((part) => [...part]));

/** What is sent of a target beside a base, and whether it is the target again. */
function sent(base: Uint8Array, target: Uint8Array): number {
  const delta = deltaFromSignature(signatureOf(base), target);
  const packed = packDelta(delta);
  expect(Buffer.from(applyDelta(base, unpackDelta(packed))).equals(Buffer.from(target))).toBe(true);
  return packed.length;
}

const base = noise(200_000, 1);

test('of the same content almost nothing is sent', () => {
  expect(sent(base, base)).toBeLessThan(600);
});

test('bytes that were put in, taken out, changed or moved cost little more than themselves', () => {
  const put = noise(500, 7);
  expect(sent(base, joined(base.subarray(0, 70_001), put, base.subarray(70_001)))).toBeLessThan(1_800);
  expect(sent(base, joined(base.subarray(0, 70_001), base.subarray(90_123)))).toBeLessThan(1_300);
  const changed = Uint8Array.from(base);
  changed.fill(7, 100_000, 100_010);
  expect(sent(base, changed)).toBeLessThan(1_300);
  expect(sent(base, joined(base.subarray(120_000), base.subarray(0, 120_000)))).toBeLessThan(1_500);
});

test('what has nothing in common is sent as a whole, and so are small and empty contents', () => {
  expect(sent(base, noise(50_000, 99))).toBeGreaterThanOrEqual(50_000);
  for (const size of [0, 1, 255, 256, 257]) {
    sent(base, base.slice(1000, 1000 + size));
    sent(base.slice(0, size), base);
  }
});

test('many equal blocks end in time, and are still right', () => {
  const zeros = new Uint8Array(400_000);
  const target = joined(zeros.subarray(0, 100_003), noise(10, 3), zeros.subarray(0, 250_000));
  expect(sent(zeros, target)).toBeLessThan(4_000);
});

test('random edits, one after another, come back to the byte', () => {
  let before = noise(60_000, 5);
  for (let round = 1; round <= 40; round++) {
    const at = (round * 7919) % 50_000;
    const after = joined(before.subarray(0, at), noise(round * 13, round), before.subarray(at + ((round * 31) % 400)));
    sent(before, after);
    before = after;
  }
});

test('a signature stays small beside what it is of, where that is large', () => {
  for (const size of [100_000_000, 2_000_000_000]) expect((size / blockSizeFor(size)) * 12).toBeLessThan(size / 80);
  expect(() => deltaFromSignature(new Uint8Array(40), base)).toThrow(RangeError);
});
