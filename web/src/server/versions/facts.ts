/** What is computed about contents: once, in worker threads, and kept. */
import { zstdCompressSync, zstdDecompressSync } from 'node:zlib';
import { BYTES_NOTE, bytesChange, ENGINE, extensionOf, formatById, HEAD_BYTES, type Comparison } from '@ovrel/core';
import { lookSchema, type Look } from '../../contract/look.ts';
import type { ComparisonResponse, Person } from '../../contract/api.ts';
import { runTask, TooHeavy } from '../compute/pool.ts';
import { drawable, drawThumbnail } from '../compute/thumbnail.ts';
import type { ComparisonResult, Source } from '../compute/tasks.ts';
import { config } from '../config.ts';
import { db, one } from '../db/pool.ts';
import { log } from '../log.ts';
import { require } from '../people/permissions.ts';
import { readContent, readWhole } from '../store/reader.ts';
import { versionRow, type VersionRow } from './rows.ts';

type Subject = Pick<VersionRow, 'content_id' | 'upload_name' | 'size' | 'format'>;

const holder = globalThis as typeof globalThis & { ovrelRunning?: Map<string, Promise<unknown>> };

/** Two requests for the same result in one process wait for one computation. */
function once<T>(key: string, work: () => Promise<T>): Promise<T> {
  const running = (holder.ovrelRunning ??= new Map());
  const known = running.get(key) as Promise<T> | undefined;
  if (known) return known;
  const started = work().finally(() => running.delete(key));
  running.set(key, started);
  return started;
}

/** The name matters only by its ending, which may promise a format. */
const nameFor = (subject: Subject): string => `file.${extensionOf(subject.upload_name)}`;

const sourceOf = async (subject: Subject): Promise<Source> => ({ bytes: Uint8Array.from(await readWhole(subject.content_id)), name: nameFor(subject) });

const hasReader = (subject: Subject): boolean => subject.format !== null && formatById(subject.format)?.read !== undefined;

/** The first bytes: enough to say what a content is that has no reader. */
async function headOf(subject: Subject): Promise<Source> {
  const pieces: Buffer[] = [];
  for await (const piece of readContent(subject.content_id, 0, HEAD_BYTES)) pieces.push(piece);
  return { bytes: Uint8Array.from(Buffer.concat(pieces)), name: nameFor(subject) };
}

const keepFact = (contentId: string, kind: string, value: Buffer): Promise<unknown> => db().query(
  'insert into fact (content_id, kind, engine, value) values ($1, $2, $3, $4) on conflict do nothing', [contentId, kind, ENGINE, value]);

const knownFact = async (contentId: string, kind: string): Promise<Buffer | undefined> =>
  (await one<{ value: Buffer }>(db(), 'select value from fact where content_id = $1 and kind = $2 and engine = $3', [contentId, kind, ENGINE]))?.value;

export async function lookAt(subject: Subject): Promise<Look> {
  const kind = `look.${extensionOf(subject.upload_name)}`.slice(0, 60);
  const known = await knownFact(subject.content_id, kind);
  if (known) return lookSchema.parse(JSON.parse(known.toString('utf8')));
  return once(`look ${subject.content_id} ${kind}`, async () => {
    const look = await computeLook(subject);
    await keepFact(subject.content_id, kind, Buffer.from(JSON.stringify(look)));
    return look;
  });
}

async function computeLook(subject: Subject): Promise<Look> {
  const blind = (problem: string): Look => ({
    level: 'bytes', format: subject.format, formatTitle: null, problem, program: null, units: null, page: null, parts: 0, lines: 0, kinds: {}, notes: [], viewTag: null,
  });
  if (Number(subject.size) > config.readLimit) return blind(`The file is larger than ${Math.round(config.readLimit / 1024 ** 2)} MB, so Ovrel keeps it but does not look into it.`);
  try {
    return await runTask({ kind: 'look', source: hasReader(subject) ? await sourceOf(subject) : await headOf(subject) });
  } catch (error) {
    if (error instanceof TooHeavy) return blind(error.message);
    throw error;
  }
}

/** A PNG; undefined where the content has no picture. `side` is the longer side in pixels. */
export async function thumbnailOf(subject: Subject, side: 96 | 320): Promise<Buffer | undefined> {
  const kind = `thumbnail.${side}`;
  const known = await knownFact(subject.content_id, kind);
  if (known) return known.length ? known : undefined;
  return once(`${kind} ${subject.content_id}`, async () => {
    const { format } = subject;
    if (!format || !drawable.has(format) || Number(subject.size) > config.readLimit) return undefined;
    // A drawing that cannot be read (an entity bomb, say) is not handed to a drawing library either.
    if (format === 'svg' && (await lookAt(subject)).level !== 'parts') return undefined;
    const png = await drawThumbnail(await readWhole(subject.content_id), format, side);
    await keepFact(subject.content_id, kind, png ?? Buffer.alloc(0));
    return png;
  });
}

/** The comparison of two versions with the outlines of what changed. */
export async function compareVersions(by: Person, a: string, b: string): Promise<ComparisonResponse> {
  require(by, 'read');
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  const value = await comparisonValue(rowA, rowB);
  const result = JSON.parse(zstdDecompressSync(value).toString('utf8')) as ComparisonResult;
  const { comparison } = result;
  return { ...result, comparison: { ...comparison, a: { ...comparison.a, name: `v${rowA.number}` }, b: { ...comparison.b, name: `v${rowB.number}` } } };
}

async function comparisonValue(a: Subject, b: Subject): Promise<Buffer> {
  const options = `${extensionOf(a.upload_name)} ${extensionOf(b.upload_name)}`;
  const key = [a.content_id, b.content_id, options, ENGINE];
  const known = await one<{ value: Buffer }>(db(), 'select value from comparison where content_a = $1 and content_b = $2 and options = $3 and engine = $4', key);
  if (known) return known.value;
  return once(`compare ${key.join(' ')}`, async () => {
    const { value, summary } = await computeComparison(a, b);
    await db().query('insert into comparison (content_a, content_b, options, engine, summary, value) values ($1, $2, $3, $4, $5, $6) on conflict do nothing', [...key, summary, value]);
    return Buffer.from(value);
  });
}

async function computeComparison(a: Subject, b: Subject): Promise<{ value: Uint8Array; summary: string }> {
  const small = Math.max(Number(a.size), Number(b.size)) <= config.readLimit;
  try {
    if (small && hasReader(a) && hasReader(b)) return await runTask({ kind: 'compare', a: await sourceOf(a), b: await sourceOf(b) });
    if (small) return await compareStreams(a, b, [...(await problemNotes(a, b)), BYTES_NOTE]);
    return await compareStreams(a, b, [`One of the files is larger than ${Math.round(config.readLimit / 1024 ** 2)} MB, so only the bytes were compared.`]);
  } catch (error) {
    if (!(error instanceof TooHeavy)) throw error;
    return compareStreams(a, b, [`${error.message} Only the bytes were compared.`]);
  }
}

async function problemNotes(a: Subject, b: Subject): Promise<string[]> {
  const sides = [['older', await lookAt(a)], ['newer', await lookAt(b)]] as const;
  return sides.flatMap(([age, look]) => (look.problem ? [`The ${age} file could not be read part by part. ${look.problem}`] : []));
}

/** Byte comparison of contents of any size, a piece at a time. */
async function compareStreams(a: Subject, b: Subject, notes: string[]): Promise<{ value: Uint8Array; summary: string }> {
  const found = await firstDifferenceInStore(a.content_id, b.content_id);
  const change = found && bytesChange(found.offset, Number(a.size), Number(b.size), found.a, found.b);
  const side = (s: Subject): Comparison['a'] => ({ name: '', bytes: Number(s.size), format: s.format, level: 'bytes', problem: null, notes: [] });
  const summary = change ? 'Content differs' : 'No change';
  const result: ComparisonResult = {
    comparison: {
      engine: ENGINE, level: 'bytes', unit: 'byte', a: side(a), b: side(b), notes, summary, changes: change ? [change] : [],
      counts: { added: 0, removed: 0, changed: change ? 1 : 0, moved: 0, unchanged: change ? 0 : 1 },
    },
    picture: { pageA: null, pageB: null, outlines: {}, omitted: 0 },
  };
  return { value: zstdCompressSync(JSON.stringify(result)), summary };
}

const nextPiece = async (pieces: AsyncGenerator<Buffer, void>): Promise<Buffer> => (await pieces.next()).value ?? Buffer.alloc(0);

async function firstDifferenceInStore(a: string, b: string): Promise<{ offset: number; a: number | undefined; b: number | undefined } | undefined> {
  const left = readContent(a), right = readContent(b);
  let x: Buffer = Buffer.alloc(0), y: Buffer = Buffer.alloc(0), offset = 0;
  for (;;) {
    if (!x.length) x = await nextPiece(left);
    if (!y.length) y = await nextPiece(right);
    const shared = Math.min(x.length, y.length);
    if (!shared) return x.length || y.length ? { offset, a: x[0], b: y[0] } : undefined;
    if (!x.subarray(0, shared).equals(y.subarray(0, shared))) {
      let i = 0;
      while (x[i] === y[i]) i++;
      return { offset: offset + i, a: x[i], b: y[i] };
    }
    x = x.subarray(shared);
    y = y.subarray(shared);
    offset += shared;
  }
}

const background = new Set<Promise<void>>();

/** Lets work go on by itself. A failure is logged; the result is computed again when it is asked for. */
function later(what: string, work: () => Promise<unknown>): void {
  const started: Promise<void> = work().then(() => undefined, (error: Error) => log.warn({ error: error.message }, `${what} failed`)).finally(() => background.delete(started));
  background.add(started);
}

/** Resolves when nothing goes on in the background any more. */
export async function backgroundWork(): Promise<void> {
  while (background.size) await Promise.all(background);
}

/** Starts what a new version will soon be asked for. */
export function afterCheckIn(row: VersionRow): void {
  later('looking into a new version', async () => {
    await lookAt(row);
    await thumbnailOf(row, 96);
  });
  summariseLater([row]);
}

/** Change summaries computed at once when a history is opened; the rest follow as they are looked at. */
const AHEAD = 40;

/** Computes missing change summaries against the version before, newest first. */
export function summariseLater(rows: readonly VersionRow[]): void {
  const missing = rows.filter((r) => r.summary === null && r.parent_content_id !== null).slice(-AHEAD).reverse();
  later('a change summary', async () => {
    for (const row of missing) {
      const parent = await one<VersionRow>(db(), `
        select c.id as content_id, v.upload_name, c.size, c.format from version v join content c on c.id = v.content_id
        where v.id = (select parent_id from version where id = $1)`, [row.id]);
      if (parent) await comparisonValue(parent, row);
    }
  });
}
