/** For tests and figures of a watched desk: a server that fails as one says, and programs that write as programs do. */
import { appendFileSync, copyFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout } from 'node:timers/promises';

interface Landed {
  readonly key: string;
  readonly fileId: string;
  readonly text: string;
  readonly base: string | undefined;
  readonly kind: string;
}

/** What happens to a request: it is refused for now, its answer is lost after it landed, or all is well. */
type Fate = 'away' | 'lost' | undefined;

export class FakeServer {
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
export const manners: Readonly<Record<string, (path: string, text: string) => Promise<void> | void>> = {
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
