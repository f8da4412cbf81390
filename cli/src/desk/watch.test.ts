/** A desk that is watched, against a server that goes away, answers late, and loses its answers. */
import { createServer, type Server } from 'node:http';
import { appendFileSync, copyFileSync, mkdtempSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { Api } from './api.ts';
import { writeState } from './folder.ts';
import { milliseconds, watch } from './watch.ts';

interface Landed {
  readonly key: string;
  readonly fileId: string;
  readonly text: string;
  readonly base: string | undefined;
  readonly kind: string;
}

/** What happens to a request: it is refused for now, its answer is lost after it landed, or all is well. */
type Fate = 'away' | 'lost' | undefined;

class FakeServer {
  readonly landed: Landed[] = [];
  private readonly byKey = new Map<string, string>();
  private readonly server: Server;
  fate: (request: number) => Fate = () => undefined;
  private requests = 0;
  /** Nobody answers anything. */
  isDown = false;

  constructor(paths: readonly string[]) {
    this.server = createServer((request, response) => {
      if (this.isDown) return void request.socket.destroy();
      const pieces: Buffer[] = [];
      request.on('data', (piece: Buffer) => pieces.push(piece));
      request.on('end', () => {
        const say = (value: unknown): void => void response.end(JSON.stringify(value));
        if (request.method === 'GET')
          return say(
            paths.map((path) => ({
              fileId: path,
              path,
              holder: null,
              newest: { id: `${path} v1`, number: 1, sha256: 'of old', size: 1 },
            })),
          );
        const fate = this.fate(this.requests++);
        if (fate === 'away') return void response.writeHead(503).end('{"detail":"Ovrel is about to be there again."}');
        const fileId = decodeURIComponent(/files\/([^/]+)\/saves/.exec(request.url ?? '')?.[1] ?? '');
        const id = this.take(fileId, Buffer.concat(pieces).toString());
        if (fate === 'lost') return void request.socket.destroy();
        return say({ made: true, aside: false, version: { id, number: 2 }, sentence: 'Saved.' });
      });
    });
  }

  private take(fileId: string, body: string): string {
    const field = (name: string): string | undefined =>
      new RegExp(`name="${name}"\\r\\n\\r\\n([^\\r]*)`).exec(body)?.[1];
    const text = /octet-stream\r\n\r\n([\s\S]*?)\r\n--ovrel/.exec(body)?.[1] ?? '';
    const key = field('key') ?? '';
    const before = this.byKey.get(key);
    if (before !== undefined) return before;
    const id = `${fileId} v${this.landed.length + 2}`;
    this.byKey.set(key, id);
    this.landed.push({ key, fileId, text, base: field('base'), kind: field('kind') ?? '' });
    return id;
  }

  textsOf = (fileId: string): string[] => this.landed.filter((l) => l.fileId === fileId).map((l) => l.text);

  async start(): Promise<string> {
    await new Promise<void>((ready) => this.server.listen(0, '127.0.0.1', () => ready()));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  stop(): void {
    this.server.closeAllConnections();
    this.server.close();
  }
}

/** How programs write: each gives the file the text, in its own manner. */
const manners: Readonly<Record<string, (path: string, text: string) => Promise<void> | void>> = {
  'in-place.svg': (path, text) => writeFileSync(path, text),
  'renamed.svg': (path, text) => {
    writeFileSync(`${path}.tmp`, text);
    renameSync(`${path}.tmp`, path);
  },
  'anew.svg': async (path, text) => {
    rmSync(path, { force: true });
    await setTimeout(20);
    writeFileSync(path, text);
  },
  'empty-first.svg': async (path, text) => {
    writeFileSync(path, '');
    await setTimeout(60);
    writeFileSync(path, text);
  },
  'in-pieces.svg': async (path, text) => {
    writeFileSync(path, text.slice(0, 3));
    await setTimeout(40);
    appendFileSync(path, text.slice(3));
  },
  'with-copy.svg': (path, text) => {
    copyFileSync(path, `${path}~`);
    writeFileSync(path, text);
  },
};
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
