import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import { applyDelta, deltaFromSignature, packDelta, signatureOf, unpackDelta } from '@ovrel/core';
import { Api } from './api.ts';
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

describe('getting a version', () => {
  const sha256Of = (content: string): string => createHash('sha256').update(content).digest('hex');
  const before = { id: 'v1', sha256: sha256Of(text(-1)) };
  const wanted = { id: 'v2', sha256: sha256Of(text(9)) };
  const sound = gzipSync(packDelta(deltaFromSignature(signatureOf(Buffer.from(text(-1))), Buffer.from(text(9)))));
  let server: Server;
  let difference: Uint8Array | undefined;
  const asked: string[] = [];
  beforeEach(async () => {
    asked.length = 0;
    server = createServer((request, response) => {
      const path = request.url?.replace('/api/v1/versions/', '') ?? '';
      asked.push(path);
      if (path === 'v2/content') response.end(text(9));
      else if (difference && path === 'v2/difference?from=v1') response.end(difference);
      else response.writeHead(413).end('{}');
    });
    await new Promise<void>((ready) => {
      server.listen(0, '127.0.0.1', ready);
    });
  });
  afterEach(() => void server.close());
  const fetched = async (path: string): Promise<string> => {
    const { port } = server.address() as AddressInfo;
    await new Api(`http://127.0.0.1:${port}`, 'token').fetchTo(path, wanted, before);
    return readFileSync(path, 'utf8');
  };

  test('only what is missing comes beside the version that is here', async () => {
    difference = sound;
    expect(await fetched(write(text(-1)))).toBe(text(9));
    expect(asked).toEqual(['v2/difference?from=v1']);
    expect(sound.length).toBeLessThan(text(9).length / 100);
  });

  test.each([
    ['the server cannot say what is new', undefined],
    ['the difference was damaged on its way', Uint8Array.from(sound).fill(7, 40, 60)],
    [
      'it gives something else',
      gzipSync(packDelta(deltaFromSignature(signatureOf(Buffer.from('x')), Buffer.from('y')))),
    ],
  ])('all of it comes where %s', async (_, given) => {
    difference = given;
    expect(await fetched(write(text(-1)))).toBe(text(9));
    expect(asked.at(-1)).toBe('v2/content');
  });

  test('what was changed here is no base for a difference', async () => {
    difference = sound;
    expect(await fetched(write(text(3)))).toBe(text(9));
    expect(asked).toEqual(['v2/content']);
  });
});
