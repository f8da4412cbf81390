import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { applyDelta, signatureOf, unpackDelta } from '@ovrel/core';
import { differenceOf, mayDiffer } from './difference.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ovrel-difference-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const text = (edit: number): string =>
  Array.from({ length: 20_000 }, (_, k) => `line ${k} ${k === edit ? 'edited' : 'as it was'} ${k * 31}`).join('\n');
const write = (content: string): string => {
  const path = join(folder, 'plan.txt');
  writeFileSync(path, content);
  return path;
};

test('of a large file with a small edit little is sent, which makes it whole again beside its base', () => {
  const base = new TextEncoder().encode(text(-1));
  const path = write(text(12_345));
  const found = differenceOf(path, signatureOf(base));
  expect(found).toBeDefined();
  const packed = readFileSync(found?.path ?? '');
  expect(packed.length).toBeLessThan(base.length / 100);
  expect(Buffer.from(applyDelta(base, unpackDelta(gunzipSync(packed)))).toString()).toBe(text(12_345));
  found?.end();
  expect(existsSync(found?.path ?? '')).toBe(false);
});

test('what has little in common is sent as it is, and small files are not compared at all', () => {
  const noise = Buffer.from(Array.from({ length: 200_000 }, (_, k) => (Math.imul(k, 2_654_435_761) >>> 13) & 255));
  const path = join(folder, 'noise.bin');
  writeFileSync(path, noise);
  expect(mayDiffer(path)).toBe(true);
  expect(mayDiffer(write('short'))).toBe(false);
});
