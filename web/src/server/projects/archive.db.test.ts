import { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import type { Person } from '../../contract/api.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { archiveOf, zipStream } from './archive.ts';
import { makeFolder, makeProject } from './service.ts';

withTestDatabase();

let editor: Person;
let projectId: string;
let inner: string;
const day = (n: number): Date => new Date(Date.UTC(2026, 9, n, 12));

async function unzip(stream: NodeJS.ReadableStream): Promise<Record<string, string>> {
  const pieces: Buffer[] = [];
  await pipeline(
    stream,
    new Writable({
      write: (piece: Buffer, _, done) => {
        pieces.push(piece);
        done();
      },
    }),
  );
  const zip = await yauzl.fromBufferPromise(Buffer.concat(pieces));
  const out: Record<string, string> = {};
  for await (const entry of zip.eachEntry()) {
    const parts: Buffer[] = [];
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    out[entry.fileName] = Buffer.concat(parts).toString();
  }
  return out;
}

beforeAll(async () => {
  editor = await makeTestPerson('editor');
  projectId = (await makeProject(await makeTestPerson('lead'), 'Landing: the “new” one')).id;
  const outer = (await makeFolder(editor, projectId, null, 'Drawings')).id;
  inner = (await makeFolder(editor, projectId, outer, 'Details')).id;
  const add = async (folder: string | null, name: string, versions: [string, number][]): Promise<void> => {
    let id = '';
    for (const [content, n] of versions) {
      if (id) await checkIn(editor, id, incoming(name, content), { note: '', at: day(n) });
      else
        id = (await makeFile(editor, projectId, folder, undefined, incoming(name, content), { note: '', at: day(n) }))
          .file.id;
    }
  };
  await add(null, 'read me.txt', [
    ['one', 1],
    ['two', 5],
  ]);
  await add(outer, 'Plän Ω.txt', [['plan', 3]]);
  await add(inner, 'bolt.txt', [
    ['b1', 2],
    ['b2', 6],
  ]);
});

test('a project comes as a ZIP, each file in its folder, in its newest version', async () => {
  const archive = await archiveOf(editor, projectId, undefined, undefined);
  expect(archive.fileName).toBe('Landing_ the “new” one.zip');
  expect(await unzip(zipStream(archive.entries))).toEqual({
    'read me.txt': 'two',
    'Drawings/Plän Ω.txt': 'plan',
    'Drawings/Details/bolt.txt': 'b2',
  });
});

test('as it was at a moment, without what was not there yet', async () => {
  const archive = await archiveOf(editor, projectId, undefined, day(2));
  expect(archive.fileName).toMatch(/ 2026-10-02 1200\.zip$/);
  expect(await unzip(zipStream(archive.entries))).toEqual({ 'read me.txt': 'one', 'Drawings/Details/bolt.txt': 'b1' });
  await expect(archiveOf(editor, projectId, undefined, new Date(0))).rejects.toThrow(/no file here at that moment/);
});

test('a folder by itself', async () => {
  expect(await unzip(zipStream((await archiveOf(editor, projectId, inner, undefined)).entries))).toEqual({
    'bolt.txt': 'b2',
  });
});

test('a content that breaks off breaks the ZIP off', async () => {
  const { entries } = await archiveOf(editor, projectId, undefined, undefined);
  const broken = zipStream(entries, async function* () {
    yield Buffer.from('t');
    throw new Error('damaged');
  });
  await expect(unzip(broken)).rejects.toThrow('damaged');
});
