import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import { applyDelta, deltaFromSignature, packDelta, unpackDelta } from '@ovrel/core';
import type { FileEntry, Person } from '../../contract/api.ts';
import { setAccess } from '../people/granting.ts';
import { makeProject } from '../projects/service.ts';
import { save } from '../saving/service.ts';
import { readWhole } from '../store/reader.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import type { Incoming } from './arrival.ts';
import { checkIn, makeFile } from './checkin.ts';
import { differenceFor, signatureFor, wholeOf } from './delta-upload.ts';
import { versionRow } from './rows.ts';

withTestDatabase();

let ines: Person;
let file: FileEntry;
let projectId: string;
let n = 0;
const lines = (edit: number): string =>
  Array.from({ length: 8000 }, (_, k) => `${n} line ${k}, ${k === edit ? 'edited' : 'as it was'}, ${k * 7919}`).join(
    '\n',
  );
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
  file = (await makeFile(ines, projectId, null, 'method.txt', incoming('method.txt', lines(-1)), { note: '' })).file;
});

const sha256Of = (text: string): string => createHash('sha256').update(text).digest('hex');

/** What a sender makes of a text beside a version. */
async function deltaOf(versionId: string, text: string): Promise<Uint8Array> {
  const signature = new Uint8Array(await (await signatureFor(ines, versionId)).arrayBuffer());
  return gzipSync(packDelta(deltaFromSignature(signature, new TextEncoder().encode(text))));
}
const sent = async (delta: Uint8Array, sha256: string, by = ines, of = file.newest.id): Promise<Incoming> =>
  wholeOf(by, incoming('method.txt', delta), { deltaOf: of, sha256 });

test('what is new beside a version is sent, and what lands is the whole file to the byte', async () => {
  const text = lines(4000);
  const delta = await deltaOf(file.newest.id, text);
  expect(delta.length).toBeLessThan(text.length / 50);
  const { version } = await checkIn(ines, file.id, await sent(delta, sha256Of(text)), { note: 'one line' });
  const { content_id: content } = await versionRow(version.id);
  expect((await readWhole(content)).toString()).toBe(text);
  const next = lines(17);
  const saved = await save(
    ines,
    file.id,
    await sent(await deltaOf(version.id, next), sha256Of(next), ines, version.id),
    {
      key: undefined,
      base: version.id,
      title: undefined,
    },
  );
  expect((await readWhole((await versionRow(saved.version.id)).content_id)).toString()).toBe(next);
});

test('who has one version gets what is new in another, and has the whole of it to the byte', async () => {
  const text = lines(4000);
  const { version } = await checkIn(ines, file.id, incoming('method.txt', Buffer.from(text)), { note: 'one line' });
  const there = await differenceFor(ines, version.id, file.newest.id);
  const packed = Buffer.from(await there.arrayBuffer());
  expect(packed.length).toBeLessThan(text.length / 50);
  const base = await readWhole((await versionRow(file.newest.id)).content_id);
  expect(Buffer.from(applyDelta(base, unpackDelta(gunzipSync(packed)))).toString()).toBe(text);
});

test('a delta that does not give the promised file is refused with a code, and nothing is stored', async () => {
  const delta = await deltaOf(file.newest.id, lines(3));
  const refused = { code: 'wrong-delta' };
  const land = async (what: Uint8Array, sha256: string): Promise<unknown> =>
    checkIn(ines, file.id, await sent(what, sha256), { note: '' });
  await expect(land(delta, sha256Of('something else'))).rejects.toMatchObject(refused);
  await expect(land(delta.slice(0, 40), sha256Of(lines(3)))).rejects.toMatchObject(refused);
  await expect(land(new Uint8Array([1, 2, 3]), sha256Of(lines(3)))).rejects.toMatchObject(refused);
  await expect(land(gzipSync(Buffer.from('no delta')), sha256Of(lines(3)))).rejects.toMatchObject(refused);
  await expect(wholeOf(ines, incoming('x', delta), { deltaOf: file.newest.id })).rejects.toMatchObject({
    code: 'bad-input',
  });
  expect((await versionRow(file.newest.id)).number).toBe(1);
});

test('a small delta that would become very large is not unpacked', async () => {
  const bomb = gzipSync(Buffer.alloc(300 * 1024 * 1024));
  expect(bomb.length).toBeLessThan(400_000);
  await expect(checkIn(ines, file.id, await sent(bomb, sha256Of('x')), { note: '' })).rejects.toMatchObject({
    code: 'wrong-delta',
  });
});

test('a version that is closed to somebody tells them nothing, neither as a signature nor by a delta', async () => {
  const guest = await makeTestPerson('guest', 'Jory');
  await expect(signatureFor(guest, file.newest.id)).rejects.toMatchObject({ status: 403 });
  await expect(sent(new Uint8Array(4), sha256Of('x'), guest)).rejects.toMatchObject({ status: 403 });
  await setAccess(ines, { projectId, folderId: null }, guest.id, ['see']);
  expect((await signatureFor(guest, file.newest.id)).status).toBe(200);
  // Neither end of a difference tells of the other.
  const { version } = await checkIn(ines, file.id, incoming('method.txt', Buffer.from(lines(5))), { note: '' });
  await expect(differenceFor(guest, version.id, file.newest.id)).rejects.toMatchObject({ status: 403 });
  await expect(differenceFor(guest, file.newest.id, version.id)).rejects.toMatchObject({ status: 403 });
});
