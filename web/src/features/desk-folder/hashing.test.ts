import { createHash } from 'node:crypto';
import { hashOf, lookAtFiles } from './hashing.ts';

const text = (content: string, modified = 1000): File => new File([content], 'x', { lastModified: modified });
const sha = (content: string | Uint8Array): string => createHash('sha256').update(content).digest('hex');
const quiet = (): void => undefined;

test('hashes are SHA-256, of small files and of large ones that are read in pieces', async () => {
  expect(await hashOf(text('landing'))).toBe(sha('landing'));
  const large = new Uint8Array(33 * 1024 * 1024).fill(7);
  expect(await hashOf(new Blob([large]))).toBe(sha(large));
});

test('what is known by size and time is not read again', async () => {
  let reads = 0;
  const file = {
    path: 'a.svg',
    file: () => {
      reads++;
      return Promise.resolve(text('one'));
    },
  };
  const first = await lookAtFiles([file], {}, quiet);
  expect(first).toEqual({
    files: [{ path: 'a.svg', size: 3, sha256: sha('one') }],
    hashes: { 'a.svg': { size: 3, modified: 1000, sha256: sha('one') } },
    unread: [],
  });
  expect(reads).toBe(2);
  await lookAtFiles([file], first.hashes, quiet);
  expect(reads).toBe(3);
  const other = await lookAtFiles(
    [{ path: 'a.svg', file: () => Promise.resolve(text('two', 2000)) }],
    first.hashes,
    quiet,
  );
  expect(other.files[0]!.sha256).toBe(sha('two'));
});

test('a file that was written just now is hashed, but its hash is not relied upon', async () => {
  const { files, hashes } = await lookAtFiles(
    [{ path: 'a', file: () => Promise.resolve(text('x', 5000)) }],
    {},
    quiet,
    () => 6000,
  );
  expect(files).toHaveLength(1);
  expect(hashes).toEqual({});
});

test("a file that changes while it is read is read again; one that never rests, or can't be read, is told", async () => {
  let reads = 0;
  const settling = {
    path: 'settling',
    file: () => Promise.resolve(++reads < 3 ? text('half', reads) : text('whole', 99)),
  };
  const restless = { path: 'restless', file: () => Promise.resolve(text('x', ++reads)) };
  const locked = { path: 'locked', file: () => Promise.reject(new Error('in use')) };
  const { files, unread } = await lookAtFiles([settling, restless, locked], {}, quiet);
  expect(files).toEqual([{ path: 'settling', size: 5, sha256: sha('whole') }]);
  expect(unread).toEqual(['restless', 'locked']);
});

test('progress counts files, in whatever order they end', async () => {
  let endOfA = (): void => undefined;
  const aEnds = new Promise<void>((resolve) => {
    endOfA = resolve;
  });
  const told: string[] = [];
  await lookAtFiles(
    [
      { path: 'a', file: () => aEnds.then(() => text('x')) },
      { path: 'b', file: () => Promise.resolve(text('y')) },
    ],
    {},
    (done, total, path) => {
      told.push(`${done}/${total} ${path}`);
      if (path === 'b') endOfA();
    },
  );
  expect(told).toEqual(['0/2 ', '1/2 b', '2/2 a']);
});

test('a clock that is wrong costs time, not truth: what seems to come from the future is hashed anew each time', async () => {
  const ahead = { path: 'a', file: () => Promise.resolve(text('one', 90_000)) };
  const first = await lookAtFiles([ahead], {}, quiet, () => 6000);
  expect([first.files[0]!.sha256, first.hashes]).toEqual([sha('one'), {}]);
  const later = await lookAtFiles(
    [{ path: 'a', file: () => Promise.resolve(text('two', 90_000)) }],
    first.hashes,
    quiet,
    () => 7000,
  );
  expect(later.files[0]!.sha256).toBe(sha('two'));
});
