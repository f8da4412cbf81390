import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { zstdDecompressSync } from 'node:zlib';
import type { PagesSoFar } from '@ovrel/core';
import { PDFDocument } from 'pdf-lib';
import { selfInvokingDocument } from '../../../../fuzz/hostile.ts';
import { cutBytes } from '../store/cutting.ts';
import { closeWorkers, runTask, SECONDS_A_MEGABYTE, TooHeavy } from './pool.ts';
import type { Source } from './task.ts';
import type { KeptComparison } from './tasks/compare.ts';

const root = join(__dirname, '../../../..');
process.env['OVREL_ROOT'] = root;
afterAll(closeWorkers);

const lighthouse = readFileSync(join(root, 'demo/real/lighthouse.svg'));
const source = (bytes: Uint8Array = lighthouse): Source => ({ bytes: Uint8Array.from(bytes), name: 'file.svg' });

test('looking and comparing run in threads, many at a time', async () => {
  const looks = await Promise.all(Array.from({ length: 9 }, () => runTask('look', { source: source() })));
  expect(looks.every((l) => l.level === 'parts' && l.parts === 134 && l.kinds['rectangle'] === 60)).toBe(true);
  const edited = Buffer.from(lighthouse.toString('latin1').replace(/fill:#[0-9a-f]{6}/, 'fill:#12ab34'), 'latin1');
  const { value, summary } = await runTask('compare', { a: source(), b: source(edited) });
  expect(summary).toMatch(/^One path: fill #[0-9a-f]{6} → #12ab34$/);
  const { comparison, picture } = JSON.parse(zstdDecompressSync(value).toString()) as KeptComparison;
  expect(comparison.changes).toHaveLength(1);
  expect(picture.outlines['c1']?.b?.paths.length).toBeGreaterThan(0);
});

test('a thread that is used again after a rest still answers', async () => {
  await runTask('look', { source: source() });
  await new Promise((done) => setTimeout(done, 300));
  expect((await runTask('look', { source: source() })).parts).toBe(134);
});

test('a large piece of an upload is cut in a thread as it would be here, and its memory comes back', async () => {
  const bytes = Uint8Array.from({ length: 900_000 }, (_, i) => (i * i * 31 + (i >> 7)) & 255);
  const expected = cutBytes(Uint8Array.from(bytes), true);
  const given = Uint8Array.from(bytes);
  const { bytes: back, ends, hashes } = await runTask('cut', { bytes: given, last: true });
  expect(given).toHaveLength(0);
  expect(Buffer.from(back).equals(Buffer.from(bytes))).toBe(true);
  expect(ends.length).toBeGreaterThan(1);
  expect(ends).toEqual(expected.ends);
  expect(Buffer.from(hashes).equals(Buffer.from(expected.hashes))).toBe(true);
});

test('what cannot be read is a result, not a failure', async () => {
  expect(await runTask('look', { source: source(Buffer.from('<svg><g>')) })).toMatchObject({
    level: 'text',
    parts: 0,
    problem: expect.stringMatching(/is closed/),
    viewTag: null,
  });
  expect(await runTask('look', { source: source(Buffer.from([0, 1, 2])) })).toMatchObject({
    level: 'bytes',
    format: null,
  });
});

test('a task that takes long says how far it is, and only to who asked', async () => {
  const document = await PDFDocument.create();
  for (let k = 0; k < 40; k++) {
    const sheet = document.addPage([842, 595]);
    for (let i = 0; i < 400; i++)
      sheet.drawLine({
        start: { x: (i * 37 + k * 13) % 800, y: (i * 53) % 560 },
        end: { x: (i * 41) % 800, y: (i * 31 + k * 3) % 560 },
      });
  }
  const bytes = await document.save();
  const pages = (): { a: Source; b: Source } => ({
    a: { bytes: Uint8Array.from(bytes), name: 'a.pdf' },
    b: { bytes: Uint8Array.from(bytes), name: 'b.pdf' },
  });
  const told: PagesSoFar[] = [];
  const [list, other] = await Promise.all([
    runTask('pages', pages(), { progress: (soFar: PagesSoFar) => told.push(soFar) }),
    runTask('pages', pages()),
  ]);
  expect(list).toHaveLength(40);
  expect(other).toEqual(list);
  expect(list?.every((p) => p.state === 'same')).toBe(true);
  expect(told.length).toBeGreaterThan(0);
  expect(
    told.every(
      ({ read, all, pages: known }, k) =>
        read <= 80 &&
        all <= 80 &&
        read > (told[k - 1]?.read ?? 0) &&
        known.filter((p) => p.state === 'same').length === Math.min(known.length, Math.floor(read / 2)),
    ),
  ).toBe(true);
  // What is no document that can be read has no pages to speak of.
  expect(await runTask('pages', { a: source(), b: source() })).toBeNull();
});

test('thumbnails: drawings and pictures are drawn, nonsense is not, and nothing hangs', async () => {
  const small = (bytes: Uint8Array, name: string, side: number): Promise<Uint8Array | null> =>
    runTask('thumbnail', { source: { bytes: Uint8Array.from(bytes), name }, side });
  const png = await small(lighthouse, 'x.svg', 96);
  expect(Buffer.from(png!).readUInt32BE(20)).toBe(96);
  expect(
    Buffer.from((await small(png!, 'x.png', 32))!)
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG');
  expect(await small(Buffer.from('no drawing'), 'x.svg', 96)).toBeNull();
  expect(await small(Buffer.from('no picture'), 'x.png', 96)).toBeNull();
});

test('a task that waits for a thread loses none of its own time', async () => {
  const many = Array.from({ length: 6 }, () => runTask('look', { source: source() }, { seconds: 4 }));
  expect((await Promise.all(many)).every((l) => l.parts === 134)).toBe(true);
});

test('what takes longer than it may is given up with a sentence, and the next task runs', async () => {
  const noTime = runTask('look', { source: source() }, { seconds: -SECONDS_A_MEGABYTE });
  await expect(noTime).rejects.toBeInstanceOf(TooHeavy);
  await expect(noTime).rejects.toThrow('took longer than Ovrel allows');
  expect((await runTask('look', { source: source() })).parts).toBe(134);
});

test('threads that cannot even begin fail what waits for them, and do not keep it waiting', async () => {
  await closeWorkers();
  process.env['OVREL_ROOT'] = join(root, 'nowhere');
  await expect(runTask('look', { source: source() })).rejects.toThrow();
  process.env['OVREL_ROOT'] = root;
  await closeWorkers();
  expect((await runTask('look', { source: source() })).parts).toBe(134);
});

test('a hostile document is given up, and every sound one beside it and after it is read in full', async () => {
  const document = readFileSync(join(root, 'demo/real/drawing-by-program.pdf'));
  const sound = (): Promise<number> =>
    runTask('look', { source: { bytes: Uint8Array.from(document), name: 'a.pdf' } }).then((seen) => seen.parts);
  const hostile = (): Promise<unknown> =>
    runTask('look', { source: { bytes: selfInvokingDocument(), name: 'hostile.pdf' } });
  const before = await sound();
  const outcomes = await Promise.allSettled([hostile(), sound(), hostile(), sound(), sound(), hostile(), sound()]);
  expect(outcomes.filter((o) => o.status === 'fulfilled').map((o) => o.value)).toEqual([
    before,
    before,
    before,
    before,
  ]);
  for (const o of outcomes) if (o.status === 'rejected') expect(o.reason).toBeInstanceOf(TooHeavy);
  expect(await sound()).toBe(before);
});
