import { zipSync, type Zippable } from 'fflate';
import { filesInZip, ZipProblem } from './zip.ts';

const limits = { files: 3, bytes: 100_000 };
const text = (content: string): Uint8Array => new TextEncoder().encode(content);
const zipOf = (files: Zippable): Blob => new Blob([Uint8Array.from(zipSync(files))]);
const given = (zip: Blob): ReturnType<typeof filesInZip> => filesInZip(zip, limits, () => undefined);

test('files come out with their paths, contents and times; what is hidden stays in', async () => {
  const zip = zipOf({
    'old/plan.txt': [text('pile 1'), { mtime: new Date(2026, 8, 3, 10, 30) }],
    'old/.thumbs': text('x'),
    '__MACOSX/old/plan.txt': text('x'),
    '.git/config': text('x'),
  });
  const found = await given(zip);
  expect(found.map(({ path }) => path)).toEqual(['old/plan.txt']);
  const [plan] = found;
  expect(await plan?.file.text()).toBe('pile 1');
  expect(plan?.file.name).toBe('plan.txt');
  expect(new Date(plan?.file.lastModified ?? 0)).toEqual(new Date(2026, 8, 3, 10, 30));
});

test('what unpacks to more than there is room for is stopped, whatever it says of itself', async () => {
  const bomb = zipSync({ 'zeros.txt': new Uint8Array(5_000_000) });
  await expect(given(new Blob([Uint8Array.from(bomb)]))).rejects.toThrow('larger than can be taken in at once');
  const lying = Buffer.from(bomb);
  const central = lying.indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
  lying.writeUInt32LE(10, 22);
  lying.writeUInt32LE(10, central + 24);
  await expect(given(new Blob([Uint8Array.from(lying)]))).rejects.toThrow(ZipProblem);
});

test('too many files, and what is no ZIP, are refused with a sentence', async () => {
  const four = Object.fromEntries([1, 2, 3, 4].map((n) => [`${n}.txt`, text('x')]));
  await expect(given(zipOf(four))).rejects.toThrow('The ZIP has 4 files, more than can be taken in at once.');
  await expect(given(new Blob(['no ZIP at all']))).rejects.toThrow('The ZIP cannot be read');
});
