/** Large contents in parts: each part is kept as soon as it is here, so that what broke off goes on from there. */
import type { Person } from '../../contract/api.ts';
import { LARGEST_PART, type NewUpload, type Upload } from '../../contract/sending.ts';
import { config } from '../config.ts';
import { db, transaction } from '../db/pool.ts';
import { permit } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { getFile } from '../projects/service.ts';
import { tooLarge, type Incoming } from '../versions/arrival.ts';
import { dropMoreThan, insertPart, insertUpload, lockUpload, uploadRow, type UploadRow } from './rows.ts';

/** On their way at the same time, of one person; the one that rested longest makes place. */
const MOST = 2000;

export async function beginUpload(by: Person, { size, fileId, projectId, folderId }: NewUpload): Promise<Upload> {
  const place = fileId === undefined ? { projectId: projectId as string, folderId } : await getFile(by, fileId);
  await permit(by, 'check out', place, 'send files');
  if (size > config.uploadLimit) throw tooLarge(config.uploadLimit);
  const made = await insertUpload(db(), by.id, size);
  await dropMoreThan(db(), by.id, MOST);
  return toldOf(made);
}

export const lookAtUpload = async (by: Person, id: string): Promise<Upload> => toldOf(await uploadRow(db(), by.id, id));

export async function addPart(by: Person, id: string, at: number, { bytes }: Incoming): Promise<Upload> {
  const part = await partOf(bytes);
  return transaction(async (client) => {
    const upload = toldOf(await lockUpload(client, by.id, id));
    if (at !== upload.received) throw notThere(upload.received);
    if (at + part.length > upload.size)
      throw new Problem(400, 'too-long', 'This part goes beyond the size that was said at the beginning.');
    if (part.length > 0) await insertPart(client, id, at, part);
    return { ...upload, received: at + part.length };
  }, 'upload');
}

async function partOf(bytes: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of bytes) {
    size += piece.length;
    if (size > LARGEST_PART) throw new Problem(413, 'too-large', 'A part has at most 16 MB.');
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

const notThere = (received: number): Problem =>
  new Problem(
    409,
    'not-there',
    `The next part begins at byte ${received}. Ask how much is here, and go on from there.`,
  );

function toldOf(row: UploadRow | undefined): Upload {
  if (!row) throw notFound('upload');
  return row;
}
