import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Notes, sendInParts, type Ask } from './parts.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ovrel-parts-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

class Lost extends Error {}
const isPassing = (error: unknown): boolean => error instanceof Lost;

/** A server that keeps parts; `fate` says what becomes of the nth part that is sent. */
class Parts {
  readonly uploads = new Map<string, { size: number; bytes: Buffer }>();
  sent = 0;
  fate: (part: number) => 'lost before' | 'lost after' | undefined = () => undefined;

  readonly ask: Ask = async (schema, path, init) => {
    if (path === '/uploads') {
      const id = randomUUID();
      const { size } = JSON.parse(init?.body as string) as { size: number };
      this.uploads.set(id, { size, bytes: Buffer.alloc(0) });
    }
    const id = path === '/uploads' ? [...this.uploads.keys()].at(-1)! : path.split('/')[2]!;
    const upload = this.uploads.get(id);
    if (!upload) throw new Error('there is no such upload');
    if (path.endsWith('/parts')) await this.take(upload, init?.body as FormData);
    return schema.parse({ id, size: upload.size, received: upload.bytes.length });
  };

  private async take(upload: { bytes: Buffer }, form: FormData): Promise<void> {
    const fate = this.fate(this.sent++);
    if (fate === 'lost before') throw new Lost();
    if (Number(form.get('at')) !== upload.bytes.length) throw new Error('the next part begins elsewhere');
    upload.bytes = Buffer.concat([upload.bytes, Buffer.from(await (form.get('file') as Blob).arrayBuffer())]);
    if (fate === 'lost after') throw new Lost();
  }
}

const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const content = (size: number): Buffer =>
  Buffer.from(Uint32Array.from({ length: size / 4 }, (_, k) => k * 2654435761).buffer);

function sending(server: Parts, notes = new Notes(undefined)) {
  const path = join(folder, 'gangway.bin');
  const bytes = content(36 * 1024 * 1024);
  writeFileSync(path, bytes);
  const run = () =>
    sendInParts(
      path,
      { place: { fileId: 'gangway' }, what: sha(bytes) },
      { ask: server.ask, notes, isPassing, pause: async () => undefined },
    );
  return { bytes, run };
}

test('a connection that breaks costs a part at most, whether the part had arrived or not', async () => {
  const server = new Parts();
  server.fate = (part) => ({ 1: 'lost before', 3: 'lost after' })[part] as 'lost before' | undefined;
  const { bytes, run } = sending(server);
  const id = await run();
  expect(sha(server.uploads.get(id)!.bytes)).toBe(sha(bytes));
  // Five parts of 8 MB, and the one that was lost.
  expect(server.sent).toBe(6);
});

test('another run goes on where the one before gave up', async () => {
  const server = new Parts();
  const path = join(folder, 'notes.json');
  server.fate = (part) => (part >= 3 ? 'lost before' : undefined);
  const first = sending(server, new Notes(path));
  await expect(first.run()).rejects.toThrow(Lost);
  server.fate = () => undefined;
  server.sent = 0;
  const { bytes, run } = sending(server, new Notes(path));
  const id = await run();
  expect(server.sent).toBe(2);
  expect(server.uploads.size).toBe(1);
  expect(sha(server.uploads.get(id)!.bytes)).toBe(sha(bytes));
});

test('what the server has given up meanwhile is begun anew; a server that takes no part is not asked for ever', async () => {
  const server = new Parts();
  const notes = new Notes(join(folder, 'notes.json'));
  const { bytes, run } = sending(server, notes);
  notes.set(sha(bytes), 'long gone');
  const id = await run();
  expect(sha(server.uploads.get(id)!.bytes)).toBe(sha(bytes));
  server.fate = () => 'lost before';
  server.sent = 0;
  notes.forget(id);
  await expect(run()).rejects.toThrow(Lost);
  expect(server.sent).toBeLessThan(6);
});

test('notes that cannot be read only cost time', () => {
  const path = join(folder, 'notes.json');
  writeFileSync(path, '{"half');
  const notes = new Notes(path);
  expect(notes.get('any')).toBeUndefined();
  notes.set('a', 'one');
  expect(new Notes(path).get('a')).toBe('one');
});
