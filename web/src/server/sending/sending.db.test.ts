import { createHash, randomBytes } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { deltaFromSignature, packDelta } from '@ovrel/core';
import type { FileEntry, Person } from '../../contract/api.ts';
import { SENT_BEFORE } from '../../contract/sending.ts';
import { db } from '../db/pool.ts';
import { setAccess } from '../people/granting.ts';
import { makeProject } from '../projects/service.ts';
import { collect } from '../store/collect.ts';
import { readWhole } from '../store/reader.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import type { Incoming } from '../versions/arrival.ts';
import { checkIn, checkInSet, makeFile } from '../versions/checkin.ts';
import { signatureFor } from '../versions/delta-upload.ts';
import { versionRow } from '../versions/rows.ts';
import { addPart, beginUpload, lookAtUpload } from './service.ts';
import { allMeant, meant } from './stand-in.ts';

withTestDatabase();

let ines: Person;
let file: FileEntry;
let projectId: string;
let n = 0;
beforeEach(async () => {
  ines = await makeTestPerson('lead', 'Ines');
  projectId = (await makeProject(ines, `Landing ${++n}`)).id;
  file = (await makeFile(ines, projectId, null, 'deck.bin', incoming('deck.bin', '\0old'), { note: '' })).file;
});

const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const begin = (by: Person, size: number) => beginUpload(by, { size, fileId: file.id, folderId: null });

async function sendAll(bytes: Uint8Array, part = 70_000): Promise<string> {
  const { id } = await begin(ines, bytes.length);
  for (let at = 0; at < bytes.length; at += part)
    await addPart(ines, id, at, incoming('part', bytes.subarray(at, at + part)));
  return id;
}

/** A file of a form that stands for what was sent before. */
const standIn = (said: unknown, name = 'deck.bin'): Incoming => ({
  ...incoming(name, JSON.stringify(said)),
  type: SENT_BEFORE,
});
const contentOf = async (versionId: string): Promise<Buffer> =>
  Buffer.from(await readWhole((await versionRow(versionId)).content_id));

test('what was sent in parts lands as one version, to the byte', async () => {
  const bytes = Buffer.concat([Buffer.from('\0'), randomBytes(300_000)]);
  const upload = await sendAll(bytes);
  const { version } = await checkIn(ines, file.id, meant(ines, standIn({ upload, sha256: sha256Of(bytes) })), {
    note: 'in parts',
  });
  expect((await contentOf(version.id)).equals(bytes)).toBe(true);
});

test('a part that comes twice, or too early, is refused, and it is said where to go on', async () => {
  const { id } = await begin(ines, 9);
  await addPart(ines, id, 0, incoming('part', 'first'));
  for (const at of [0, 7])
    await expect(addPart(ines, id, at, incoming('part', 'xx'))).rejects.toMatchObject({
      code: 'not-there',
      message: expect.stringContaining('begins at byte 5') as string,
    });
  await expect(addPart(ines, id, 5, incoming('part', 'too long'))).rejects.toMatchObject({ code: 'too-long' });
  expect(await lookAtUpload(ines, id)).toEqual({ id, size: 9, received: 5 });
});

test('nothing lands before all of it is here, and nothing that changed while it was sent', async () => {
  const { id } = await begin(ines, 9);
  await addPart(ines, id, 0, incoming('part', '\0irst'));
  const land = (said: unknown) => checkIn(ines, file.id, meant(ines, standIn(said)), { note: 'x' });
  await expect(land({ upload: id })).rejects.toMatchObject({ code: 'not-all-there' });
  await addPart(ines, id, 5, incoming('part', 'last'));
  await expect(land({ upload: id, sha256: sha256Of(Buffer.from('other')) })).rejects.toMatchObject({
    code: 'wrong-parts',
  });
  await expect(land({ upload: 'none' })).rejects.toMatchObject({ code: 'bad-input' });
  expect((await contentOf(file.newest.id)).toString()).toBe('\0old');
  expect((await land({ upload: id })).made).toBe(true);
});

test('an upload is seen by who began it, who needs the right to check out', async () => {
  const { id } = await begin(ines, 3);
  const wenna = await makeTestPerson('guest', 'Wenna');
  await setAccess(ines, { projectId, folderId: null }, wenna.id, ['see']);
  await expect(lookAtUpload(wenna, id)).rejects.toMatchObject({ code: 'not-found' });
  await expect(addPart(wenna, id, 0, incoming('part', 'abc'))).rejects.toMatchObject({ code: 'not-found' });
  await expect(begin(wenna, 3)).rejects.toMatchObject({ status: 403 });
  await expect(begin(ines, 2 ** 50)).rejects.toMatchObject({ code: 'too-large' });
});

test('a set takes deltas: only what is new of each file was sent', async () => {
  const before = randomBytes(400_000);
  const made = await makeFile(ines, projectId, null, 'hull.bin', incoming('hull.bin', before), { note: '' });
  const after = Buffer.concat([before.subarray(0, 200_000), Buffer.from('a new rib'), before.subarray(200_000)]);
  const signature = new Uint8Array(await (await signatureFor(ines, made.file.newest.id)).arrayBuffer());
  const delta = gzipSync(packDelta(deltaFromSignature(signature, after)));
  expect(delta.length).toBeLessThan(10_000);
  const upload = await sendAll(delta);
  async function* sent(): AsyncGenerator<Incoming> {
    yield standIn({ upload, deltaOf: made.file.newest.id, sha256: sha256Of(after) }, 'hull.bin');
    yield incoming('deck.bin', '\0new');
  }
  const plan = [
    { fileId: made.file.id, base: made.file.newest.id, keep: false },
    { fileId: file.id, base: file.newest.id, keep: false },
  ];
  const { set } = await checkInSet(ines, projectId, plan, allMeant(ines, sent()), { note: 'a rib', key: undefined });
  const id = set?.files.find((f) => f.fileId === made.file.id)?.versionId;
  expect((await contentOf(id!)).equals(after)).toBe(true);
});

test('what nobody goes on with is removed after a day, with its parts', async () => {
  const kept = await sendAll(randomBytes(10));
  const old = await sendAll(randomBytes(10));
  await db().query(`update upload set touched_at = now() - interval '25 hours' where id = $1`, [old]);
  await collect(undefined, 0, 0);
  await expect(lookAtUpload(ines, old)).rejects.toMatchObject({ code: 'not-found' });
  expect((await lookAtUpload(ines, kept)).received).toBe(10);
  expect((await db().query('select 1 from upload_part where upload_id = $1', [old])).rowCount).toBe(0);
  expect(await countRows('upload_part')).toBeGreaterThan(0);
});
