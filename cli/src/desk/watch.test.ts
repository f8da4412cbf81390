/** A desk that is watched, against a server that goes away, answers late, and loses its answers. */
import { mkdtempSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { Api } from './api.ts';
import { writeState } from './folder.ts';
import { FakeServer, manners } from './testing.ts';
import { milliseconds, watch } from './watch.ts';

const names = Object.keys(manners);

let folder: string;
let server: FakeServer;
let address: string;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'ovrel-watch-'));
  server = new FakeServer(names);
  address = await server.start();
  for (const name of names) writeFileSync(join(folder, name), `${name} 0`);
  writeState(folder, { address, project: { id: 'landing', name: 'Landing' }, bases: {}, hashes: {} });
});
afterEach(() => {
  server.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function watched(work: () => Promise<void>, more: { readonly backupEvery?: number } = {}): Promise<string[]> {
  const ending = new AbortController();
  const said: string[] = [];
  const print = (text: string): Promise<void> => Promise.resolve(void said.push(text));
  const how = { quiet: 200, backupEvery: more.backupEvery, once: false, signal: ending.signal };
  const running = watch(folder, new Api(address, 'token'), how, print);
  try {
    await work();
  } finally {
    ending.abort();
    await running;
  }
  return said;
}

const until = async (isSo: () => boolean): Promise<void> => {
  for (let tries = 0; !isSo() && tries < 400; tries++) await setTimeout(50);
  expect(isSo()).toBe(true);
};

test('each save is one version, in whatever manner a program writes: none lost, none half, none twice', async () => {
  // Now and then the server is away, or its answer is lost.
  server.fate = (n) => (({ 3: 'away', 7: 'lost' }) as const)[n % 10];
  const rounds = 4;
  await watched(async () => {
    await until(() => server.landed.length === names.length);
    for (let round = 1; round <= rounds; round++) {
      await Promise.all(names.map(async (name) => manners[name]?.(join(folder, name), `${name} ${round}`)));
      await until(() => names.every((name) => server.textsOf(name).length === round + 1));
    }
  });
  for (const name of names)
    expect(server.textsOf(name)).toEqual(Array.from({ length: rounds + 1 }, (_, k) => `${name} ${k}`));
}, 60_000);

test('while nobody answers, saves are kept on the desk, also over a new start, and each is made of the one before', async () => {
  server.fate = () => 'away';
  const path = join(folder, 'in-place.svg');
  const said = await watched(async () => {
    await setTimeout(900);
    writeFileSync(path, 'while away');
    await setTimeout(900);
  });
  expect(server.landed).toEqual([]);
  expect(said.join(' ')).toContain('wait here');
  server.fate = () => undefined;
  await watched(() => until(() => server.textsOf('in-place.svg').length === 2));
  expect(server.textsOf('in-place.svg')).toEqual(['in-place.svg 0', 'while away']);
  const [first, second] = server.landed.filter((l) => l.fileId === 'in-place.svg');
  expect(first?.base).toBe('in-place.svg v1');
  expect(second?.base).toMatch(/^in-place.svg v/);
  expect(second?.base).not.toBe('in-place.svg v1');
}, 60_000);

test('begun while the server is away, it keeps what is saved, and sends it when the server is there', async () => {
  server.isDown = true;
  const path = join(folder, 'in-place.svg');
  const base = { fileId: 'in-place.svg', versionId: 'in-place.svg v1', number: 1, sha256: 'of old' };
  writeState(folder, {
    address,
    project: { id: 'landing', name: 'Landing' },
    bases: { 'in-place.svg': base },
    hashes: {},
  });
  const said = await watched(async () => {
    await setTimeout(800);
    writeFileSync(path, 'while nobody is there');
    await setTimeout(800);
    server.isDown = false;
    await until(() => server.textsOf('in-place.svg').length === 2);
  });
  expect(server.textsOf('in-place.svg')).toEqual(['in-place.svg 0', 'while nobody is there']);
  expect(said.join(' ')).toContain('Saves are kept here meanwhile.');
}, 60_000);

test('backups come at intervals, and of what is unchanged there is none', async () => {
  const path = join(folder, 'in-place.svg');
  await watched(
    async () => {
      await until(() => server.landed.length === names.length);
      for (let k = 0; k < 6; k++) {
        writeFileSync(path, `changed ${k}`);
        await setTimeout(250);
      }
      await until(() => server.textsOf('in-place.svg').includes('changed 5'));
    },
    { backupEvery: 3000 },
  );
  expect(server.textsOf('in-place.svg')).toEqual(['in-place.svg 0', 'changed 5']);
  expect(new Set(server.landed.map((l) => l.kind))).toEqual(new Set(['backup']));
}, 60_000);

test('a folder that is gone for a while is waited for; what Ovrel does not know is told once', async () => {
  const said = await watched(async () => {
    await until(() => server.landed.length === names.length);
    writeFileSync(join(folder, 'unknown.svg'), 'who is this');
    await setTimeout(800);
    unlinkSync(join(folder, 'unknown.svg'));
  });
  expect(said.filter((text) => text.startsWith('unknown.svg'))).toHaveLength(1);
}, 30_000);

test('lengths of time are said as people say them', () => {
  expect(['90s', '60m', '2h', '250ms'].map(milliseconds)).toEqual([90_000, 3_600_000, 7_200_000, 250]);
  expect(() => milliseconds('soon')).toThrow('say 30s, 60m or 2h');
});
