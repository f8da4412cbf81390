/** A file of a form may stand for what was sent before, in parts. */
import { createHash } from 'node:crypto';
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import { SENT_BEFORE, sentBeforeSchema } from '../../contract/sending.ts';
import { db } from '../db/pool.ts';
import { notFound, Problem } from '../problem.ts';
import type { Incoming } from '../versions/arrival.ts';
import { wholeOf } from '../versions/delta-upload.ts';
import { partAt, uploadRow } from './rows.ts';

type SentBefore = z.output<typeof sentBeforeSchema>;

/** Of the few words that stand for a file. */
const LONGEST = 4096;

/** The file itself, or the one that it stands for. What it stands for is looked up when its bytes are read. */
export const meant = (by: Person, incoming: Incoming): Incoming =>
  incoming.type === SENT_BEFORE ? { name: incoming.name, bytes: standingFor(by, incoming) } : incoming;

export async function* allMeant(by: Person, files: AsyncIterable<Incoming>): AsyncGenerator<Incoming> {
  for await (const file of files) yield meant(by, file);
}

async function* standingFor(by: Person, incoming: Incoming): AsyncGenerator<Uint8Array> {
  const said = await whatIsSaid(incoming.bytes);
  const sent = { name: incoming.name, bytes: partsOf(by, said.upload) };
  if (said.deltaOf === undefined) yield* checked(sent.bytes, said.sha256);
  else yield* (await wholeOf(by, sent, said)).bytes;
}

async function whatIsSaid(bytes: AsyncIterable<Uint8Array>): Promise<SentBefore> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of bytes) {
    size += piece.length;
    if (size > LONGEST) throw badWords();
    pieces.push(piece);
  }
  try {
    return sentBeforeSchema.parse(JSON.parse(Buffer.concat(pieces).toString('utf8')));
  } catch {
    throw badWords();
  }
}

const badWords = (): Problem =>
  new Problem(400, 'bad-input', `A file of the type ${SENT_BEFORE} says in JSON which upload it stands for.`);

async function* partsOf(by: Person, id: string): AsyncGenerator<Uint8Array> {
  const upload = await uploadRow(db(), by.id, id);
  if (!upload) throw notFound('upload');
  if (upload.received < upload.size)
    throw new Problem(409, 'not-all-there', 'Parts of this file have not arrived yet. Send them first.');
  for (let at = 0; at < upload.size;) {
    const part = await partAt(db(), id, at);
    // It was given up meanwhile.
    if (!part) throw notFound('upload');
    at += part.bytes.length;
    yield part.bytes;
  }
}

/** Whatever was put together of two states of a file while it was sent is not stored. */
async function* checked(bytes: AsyncIterable<Uint8Array>, sha256: string | undefined): AsyncGenerator<Uint8Array> {
  const hash = createHash('sha256');
  for await (const piece of bytes) {
    hash.update(piece);
    yield piece;
  }
  if (sha256 !== undefined && hash.digest('hex') !== sha256)
    throw new Problem(409, 'wrong-parts', 'The file changed while its parts were sent. Send it again.');
}
