import { gzipSync } from 'node:zlib';
import { open } from '../../kinds/content.ts';
import { comparedFiles, sentences } from '../../testing.ts';
import { inflated } from './inflate.ts';

const drawing = (x: number): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><rect x="${x}" width="9" height="9"/><rect y="50" width="40" height="9"/></svg>`,
  );

test('a compressed drawing is read, and compared with one that is not', async () => {
  const compressed = gzipSync(drawing(10));
  expect((await open(compressed, 'sign.svgz')).design?.parts).toHaveLength(2);
  expect(sentences(await comparedFiles(['sign.svgz', compressed], ['sign.svg', drawing(30)]))).toEqual([
    'One rectangle moved by (20, 0)',
  ]);
  expect(sentences(await comparedFiles(['sign.svgz', compressed], ['sign.svg', drawing(10)]))).toEqual([]);
});

test.each([
  ['cut off', gzipSync(drawing(10)).subarray(0, 60)],
  ['damaged', Buffer.from(gzipSync(drawing(10))).fill(0x55, 12, 60)],
])('one that is %s says so, and is kept as bytes', async (_, bytes) => {
  const { kinds, problem } = await open(bytes, 'sign.svgz');
  expect(kinds[0]).toBe('bytes');
  expect(problem?.sentence).toMatch(/cut off|damaged/);
});

test('a few bytes that hold very much are refused before they are all there', () => {
  const bomb = gzipSync(Buffer.alloc(50_000_000));
  expect(() => inflated(bomb, 1_000_000)).toThrow('more than Ovrel reads');
});
