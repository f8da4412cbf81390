/** Deltas: only what is new beside a version that the other side has travels, there and back. */
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { applyDelta, unpackDelta } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import { runTask } from '../compute/pool.ts';
import { config } from '../config.ts';
import { isReadable, sourceOf } from '../facts/subject.ts';
import { permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { readWhole } from '../store/reader.ts';
import type { Incoming } from './arrival.ts';
import { versionRow } from './rows.ts';

const unpack = promisify(gunzip);

interface DeltaFields {
  readonly deltaOf?: string | undefined;
  readonly sha256?: string | undefined;
}

const tooLarge = (): Problem =>
  new Problem(413, 'too-large-for-deltas', 'This version is too large to be sent as a delta. Send the whole file.');

/** What does not come out as the sender has it is not stored: the whole file makes it right. */
const wrongDelta = (): Problem =>
  new Problem(409, 'wrong-delta', 'The delta does not give the file that it was made for. Send the whole file.');

export async function signatureFor(by: Person, versionId: string): Promise<Response> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  if (!isReadable(row)) throw tooLarge();
  const signature = await runTask('signature', { source: sourceOf(row) });
  return new Response(Uint8Array.from(signature), {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=86400' },
  });
}

export async function differenceFor(by: Person, versionId: string, from: string): Promise<Response> {
  await permitVersion(by, versionId);
  await permitVersion(by, from);
  const [target, base] = [await versionRow(versionId), await versionRow(from)];
  if (!isReadable(target) || !isReadable(base)) throw tooLarge();
  const packed = await runTask('difference', { base: sourceOf(base), target: sourceOf(target) });
  return new Response(Uint8Array.from(packed), {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=86400' },
  });
}

/** The file as it comes, or as it is beside the version that a delta is of. */
export async function wholeOf(by: Person, incoming: Incoming, { deltaOf, sha256 }: DeltaFields): Promise<Incoming> {
  if (deltaOf === undefined) return incoming;
  if (sha256 === undefined)
    throw new Problem(400, 'bad-input', 'With a delta the SHA-256 of the whole file is needed.');
  await permitVersion(by, deltaOf);
  const row = await versionRow(deltaOf);
  if (!isReadable(row)) throw tooLarge();
  return { name: incoming.name, bytes: rebuilt(incoming, row.content_id, sha256) };
}

async function* rebuilt(incoming: Incoming, contentId: string, sha256: string): AsyncGenerator<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const bytes of incoming.bytes) {
    size += bytes.length;
    if (size > config.readLimit) throw tooLarge();
    pieces.push(bytes);
  }
  const whole = await applied(await readWhole(contentId), Buffer.concat(pieces));
  if (createHash('sha256').update(whole).digest('hex') !== sha256) throw wrongDelta();
  yield whole;
}

async function applied(base: Uint8Array, packed: Buffer): Promise<Uint8Array> {
  try {
    const delta = unpackDelta(await unpack(packed, { maxOutputLength: config.readLimit }));
    if (delta.pieces.size > config.readLimit) throw tooLarge();
    return applyDelta(base, delta);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw wrongDelta();
  }
}
