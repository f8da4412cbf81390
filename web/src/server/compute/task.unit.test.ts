import { bytesIn, loaded, sizeOf, ToLoad } from './task.ts';

const source = (length: number, name = 'a.svg'): { bytes: Uint8Array; name: string } => ({
  bytes: new Uint8Array(length),
  name,
});

/** Bytes that are fetched, and how often they were. */
function late(size: number): { given: ToLoad; loads: () => number } {
  let loads = 0;
  const given = new ToLoad(size, async () => {
    loads += 1;
    return source(size, 'late.svg');
  });
  return { given, loads: () => loads };
}

test('the size of work counts what is here and what is still to be fetched, without fetching it', () => {
  const { given, loads } = late(1000);
  expect(sizeOf({ a: source(10), b: given })).toBe(1010);
  expect(sizeOf({ all: [given, source(5), given], page: 3 })).toBe(2005);
  expect(sizeOf({ page: 3, words: 'none' })).toBe(0);
  expect(loads()).toBe(0);
});

test('what is still to be fetched is fetched once its turn has come, also in lists; the rest stays as it is', async () => {
  const [one, other] = [late(3), late(4)];
  const input = await loaded({ a: one.given, all: [other.given, source(5)], page: 3, at: { part: 'x' } });
  expect(input.a).toMatchObject({ name: 'late.svg' });
  expect((input.all as { bytes: Uint8Array }[]).map(({ bytes }) => bytes.length)).toEqual([4, 5]);
  expect([input.page, input.at]).toEqual([3, { part: 'x' }]);
  expect([one.loads(), other.loads()]).toEqual([1, 1]);
});

test('what cannot be fetched fails the work', async () => {
  const broken = new ToLoad(9, () => Promise.reject(new Error('damaged')));
  await expect(loaded({ a: broken, b: source(1) })).rejects.toThrow('damaged');
});

test('all bytes of an input are found, however deep, so that they can be given away', () => {
  const [a, b] = [source(1), source(2)];
  expect(bytesIn({ a, list: [b, { more: { bytes: a.bytes } }], words: 'none', nothing: null })).toEqual([
    a.bytes,
    b.bytes,
    a.bytes,
  ]);
});
