/** What is computed about contents: once, in worker threads, and kept. */
import { zstdCompressSync, zstdDecompressSync } from 'node:zlib';
import sharp from 'sharp';
import {
  BYTES_NOTE,
  bytesChange,
  ENGINE,
  extensionOf,
  formatById,
  HEAD_BYTES,
  layeredFormats,
  pictureFormats,
  type Box,
  type Comparison,
  type PageEntry,
  type PagesSoFar,
  type Reference,
} from '@ovrel/core';
import { lookSchema, type Look } from '../../contract/look.ts';
import type { ComparisonResponse, Person } from '../../contract/api.ts';
import { runTask, TooHeavy } from '../compute/pool.ts';
import { drawable, drawThumbnail } from '../compute/thumbnail.ts';
import type { ComparisonResult, KeptComparison, Source, Task } from '../compute/tasks.ts';
import { config } from '../config.ts';
import { db, many, one } from '../db/pool.ts';
import { enqueue } from '../jobs/queue.ts';
import { permitVersion } from '../people/access.ts';
import { readContent, readWhole } from '../store/reader.ts';
import { STORE } from '../store/copy.ts';
import { versionRow, versionSelect, type VersionRow } from './rows.ts';

export type Subject = Pick<VersionRow, 'content_id' | 'upload_name' | 'size' | 'format'>;

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

export const sourceOf = async (subject: Subject): Promise<Source> => ({
  bytes: Uint8Array.from(await readWhole(subject.content_id)),
  name: nameFor(subject),
});

/** Contents that a comparison looks into. */
const looksInto = (subject: Subject): boolean =>
  hasReader(subject) || (subject.format !== null && pictureFormats.has(subject.format));

export const hasReader = (subject: Subject): boolean =>
  subject.format !== null && formatById(subject.format)?.read !== undefined;

/** The first bytes: enough to say what a content is that has no reader. */
async function headOf(subject: Subject): Promise<Source> {
  const pieces: Buffer[] = [];
  for await (const piece of readContent(subject.content_id, 0, HEAD_BYTES)) pieces.push(piece);
  return { bytes: Uint8Array.from(Buffer.concat(pieces)), name: nameFor(subject) };
}

export const keepFact = (contentId: string, kind: string, value: Buffer): Promise<unknown> =>
  db().query(
    'insert into fact (store_id, content_id, kind, engine, value) values ($1, $2, $3, $4, $5) on conflict do nothing',
    [STORE, contentId, kind, ENGINE, value],
  );

export const knownFact = async (contentId: string, kind: string): Promise<Buffer | undefined> =>
  (
    await one<{ value: Buffer }>(
      db(),
      'select value from fact where store_id = $1 and content_id = $2 and kind = $3 and engine = $4',
      [STORE, contentId, kind, ENGINE],
    )
  )?.value;

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
    level: 'bytes',
    format: subject.format,
    formatTitle: null,
    problem,
    locked: false,
    program: null,
    units: null,
    page: null,
    pages: [],
    pageBoxes: [],
    scene: false,
    formatVersion: null,
    parts: 0,
    lines: 0,
    kinds: {},
    picture: null,
    layers: [],
    titleBlocks: [],
    notes: [],
    viewTag: null,
  });
  if (Number(subject.size) > config.readLimit)
    return blind(
      `The file is larger than ${Math.round(config.readLimit / 1024 ** 2)} MB, so Ovrel keeps it but does not look into it.`,
    );
  try {
    return await runTask({
      kind: 'look',
      source: looksInto(subject) ? await sourceOf(subject) : await headOf(subject),
    });
  } catch (error) {
    if (error instanceof TooHeavy) return blind(error.message);
    throw error;
  }
}

/** The other files that a content names. */
export async function referencesIn(subject: Subject): Promise<Reference[]> {
  const kind = `references.${extensionOf(subject.upload_name)}`.slice(0, 60);
  const known = await knownFact(subject.content_id, kind);
  if (known) return JSON.parse(known.toString('utf8')) as Reference[];
  return once(`${kind} ${subject.content_id}`, async () => {
    const found =
      Number(subject.size) > config.readLimit
        ? []
        : await runTask({ kind: 'references', source: await sourceOf(subject) }).catch((error: unknown) => {
            if (error instanceof TooHeavy) return [];
            throw error;
          });
    await keepFact(subject.content_id, kind, Buffer.from(JSON.stringify(found)));
    return found;
  });
}

/** A sample of what the content holds, to find others that are alike; empty where it is too large to look into. */
export async function sketchFor(subject: Subject): Promise<Uint32Array> {
  const known = await knownFact(subject.content_id, 'sketch');
  if (known) return Uint32Array.from({ length: known.length / 4 }, (_, i) => known.readUInt32LE(i * 4));
  return once(`sketch ${subject.content_id}`, async () => {
    const found =
      Number(subject.size) > config.readLimit
        ? new Uint32Array()
        : await runTask({ kind: 'sketch', source: await sourceOf(subject) }).catch((error: unknown) => {
            if (error instanceof TooHeavy) return new Uint32Array();
            throw error;
          });
    const value = Buffer.alloc(found.length * 4);
    found.forEach((n, i) => value.writeUInt32LE(n, i * 4));
    await keepFact(subject.content_id, 'sketch', value);
    return found;
  });
}

/** Longer side of a page, in pixels: sharp on A3 up to a zoom of two. */
export const PAGE_SIDE = 2800;

/** A PNG; undefined where the content has no picture. `side` is the longer side in pixels. */
export async function thumbnailOf(subject: Subject, side: 96 | 320): Promise<Buffer | undefined> {
  const kind = `thumbnail.${side}`;
  const known = await knownFact(subject.content_id, kind);
  if (known) return known.length ? known : undefined;
  return once(`${kind} ${subject.content_id}`, async () => {
    const png = side === 96 ? await smaller(await thumbnailOf(subject, 320), side) : await drawn(subject, side);
    if (png !== 'not drawn') await keepFact(subject.content_id, kind, png ?? Buffer.alloc(0));
    return png === 'not drawn' ? undefined : png;
  });
}

const smaller = async (png: Buffer | undefined, side: number): Promise<Buffer | undefined> =>
  png && sharp(png).resize(side, side, { fit: 'inside', withoutEnlargement: true }).png().toBuffer();

/** A thumbnail; `not drawn` for what is not even tried. */
async function drawn(subject: Subject, side: number): Promise<Buffer | undefined | 'not drawn'> {
  const { format } = subject;
  if (!format || !drawable.has(format) || Number(subject.size) > config.readLimit) return 'not drawn';
  // A drawing that cannot be read (an entity bomb, say) is not handed to a drawing library either.
  const look = format === 'svg' || format === 'dxf' || format === 'pdf' ? await lookAt(subject) : undefined;
  if (look && look.level !== 'parts') return 'not drawn';
  if (format === 'pdf' || layeredFormats.has(format)) return drawnSmall(subject, side);
  return look?.scene
    ? thumbnailFromParts(subject, side)
    : drawThumbnail(await readWhole(subject.content_id), format, side);
}

/** Documents at that size; layered pictures as a whole, made smaller. */
async function drawnSmall(subject: Subject, side: number): Promise<Buffer | undefined> {
  if (subject.format === 'pdf') return pngOf(subject, 0, side);
  const png = await pngOf(subject, 0, 0);
  return png && drawThumbnail(png, 'png', side);
}

async function thumbnailFromParts(subject: Subject, side: number): Promise<Buffer | undefined> {
  const drawing = await drawingOf(subject, 0);
  return drawing.length ? drawThumbnail(drawing, 'svg', side) : undefined;
}

/** A page, or an area of it, drawn from its parts as an SVG drawing; empty where there is none. */
export async function drawingOf(subject: Subject, page: number, box?: Box): Promise<Buffer> {
  if (Number(subject.size) > config.readLimit) return Buffer.alloc(0);
  try {
    return Buffer.from(
      await runTask({ kind: 'drawing', source: await sourceOf(subject), page, ...(box ? { box } : {}) }),
    );
  } catch (error) {
    if (error instanceof TooHeavy) return Buffer.alloc(0);
    throw error;
  }
}

/** A picture that browsers do not show, or a page of a document, as PNG; undefined where it cannot be drawn. */
export const pngOf = (subject: Subject, page: number, side: number): Promise<Buffer | undefined> =>
  bytesFact(subject, `png.${page}.${side}`, (source) => ({ kind: 'png', source, page, side }));

/** Part of a page of a document, as PNG. */
export async function partOf(subject: Subject, page: number, box: Box, side: number): Promise<Buffer | undefined> {
  if (Number(subject.size) > config.readLimit) return undefined;
  const png = await runTask({ kind: 'png', source: await sourceOf(subject), page, side, box }).catch(
    (error: unknown) => {
      if (error instanceof TooHeavy) return null;
      throw error;
    },
  );
  return png ? Buffer.from(png) : undefined;
}

/** What a worker makes of a content, kept; undefined where it makes nothing of it. */
async function bytesFact(
  subject: Subject,
  kind: string,
  task: (source: Source) => Extract<Task, { kind: 'png' | 'drawn' | 'layer' | 'ora' }>,
): Promise<Buffer | undefined> {
  const known = await knownFact(subject.content_id, kind);
  if (known) return known.length ? known : undefined;
  return once(`${kind} ${subject.content_id}`, async () => {
    const made =
      Number(subject.size) > config.readLimit
        ? null
        : await runTask(task(await sourceOf(subject))).catch((error: unknown) => {
            if (error instanceof TooHeavy) return null;
            throw error;
          });
    await keepFact(subject.content_id, kind, made ? Buffer.from(made) : Buffer.alloc(0));
    return made ? Buffer.from(made) : undefined;
  });
}

/** A page as it is compared with one of another kind, as PNG; undefined where it cannot be drawn. */
export const drawnOf = (subject: Subject, page: number): Promise<Buffer | undefined> =>
  bytesFact(subject, `drawn.${page}`, (source) => ({ kind: 'drawn', source, page }));

/** One layer of a picture on its canvas, as PNG; undefined where there is none. */
export const layerOf = (subject: Subject, layer: number): Promise<Buffer | undefined> =>
  bytesFact(subject, `layer.${layer}`, (source) => ({ kind: 'layer', source, layer }));

/** A layered picture as OpenRaster; undefined where it is none. */
export const oraOf = (subject: Subject): Promise<Buffer | undefined> =>
  bytesFact(subject, 'ora', (source) => ({ kind: 'ora', source }));

/** A page as arrays for a graphics processor, gzipped; empty where there is none. */
export async function sceneBytesOf(subject: Subject, page: number): Promise<Buffer> {
  const kind = `scene.${page}.${extensionOf(subject.upload_name)}`.slice(0, 60);
  const known = await knownFact(subject.content_id, kind);
  if (known) return known;
  return once(`${kind} ${subject.content_id}`, async () => {
    const scene =
      Number(subject.size) > config.readLimit
        ? Buffer.alloc(0)
        : Buffer.from(await runTask({ kind: 'scene', source: await sourceOf(subject), page }));
    await keepFact(subject.content_id, kind, scene);
    return scene;
  });
}

/** The comparison of two versions with the outlines of what changed. */
export async function compareVersions(
  by: Person,
  a: string,
  b: string,
  tolerance?: number,
): Promise<ComparisonResponse> {
  await Promise.all([permitVersion(by, a), permitVersion(by, b)]);
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  const value = await comparisonValue(rowA, rowB, tolerance);
  const { comparison, picture } = JSON.parse(zstdDecompressSync(value).toString('utf8')) as ComparisonResult;
  return {
    picture,
    comparison: {
      ...comparison,
      a: { ...comparison.a, name: `v${rowA.number}` },
      b: { ...comparison.b, name: `v${rowB.number}` },
    },
  };
}

/** The differences of two pictures' squares, as the core packs them; undefined where they are no pictures. */
export async function differenceMap(by: Person, a: string, b: string): Promise<Buffer | undefined> {
  await Promise.all([permitVersion(by, a), permitVersion(by, b)]);
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  const { map } = JSON.parse(zstdDecompressSync(await comparisonValue(rowA, rowB)).toString('utf8')) as KeptComparison;
  return map === undefined ? undefined : Buffer.from(map, 'base64');
}

/** Which pages of two documents changed, before it is known what changed on them; undefined for anything else. `progress` hears what is known so far. */
export async function changedPages(
  by: Person,
  a: string,
  b: string,
  progress?: (soFar: PagesSoFar) => void,
): Promise<PageEntry[] | undefined> {
  await Promise.all([permitVersion(by, a), permitVersion(by, b)]);
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  if (
    rowA.format !== 'pdf' ||
    rowB.format !== 'pdf' ||
    Math.max(Number(rowA.size), Number(rowB.size)) > config.readLimit
  )
    return undefined;
  const work = async (): Promise<PageEntry[] | undefined> =>
    (await runTask({ kind: 'pages', a: await sourceOf(rowA), b: await sourceOf(rowB) }, progress).catch(
      (error: unknown) => {
        if (error instanceof TooHeavy) return null;
        throw error;
      },
    )) ?? undefined;
  return progress ? work() : once(`pages ${rowA.content_id} ${rowB.content_id}`, work);
}

async function comparisonValue(a: Subject, b: Subject, tolerance?: number): Promise<Buffer> {
  const options = `${extensionOf(a.upload_name)} ${extensionOf(b.upload_name)}${tolerance === undefined ? '' : ` within ${tolerance}`}`;
  const key = [STORE, a.content_id, b.content_id, options, ENGINE];
  const known = await one<{ value: Buffer }>(
    db(),
    'select value from comparison where store_id = $1 and content_a = $2 and content_b = $3 and options = $4 and engine = $5',
    key,
  );
  if (known) return known.value;
  return once(`compare ${key.join(' ')}`, async () => {
    const { value, summary } = await computeComparison(a, b, tolerance);
    await db().query(
      'insert into comparison (store_id, content_a, content_b, options, engine, summary, value) values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing',
      [...key, summary, value],
    );
    return Buffer.from(value);
  });
}

async function computeComparison(
  a: Subject,
  b: Subject,
  tolerance: number | undefined,
): Promise<{ value: Uint8Array; summary: string }> {
  const small = Math.max(Number(a.size), Number(b.size)) <= config.readLimit;
  try {
    if (small && looksInto(a) && looksInto(b))
      return await runTask({
        kind: 'compare',
        a: await sourceOf(a),
        b: await sourceOf(b),
        ...(tolerance === undefined ? {} : { tolerance }),
      });
    if (small) return await compareStreams(a, b, [...(await problemNotes(a, b)), BYTES_NOTE]);
    return await compareStreams(a, b, [
      `One of the files is larger than ${Math.round(config.readLimit / 1024 ** 2)} MB, so only the bytes were compared.`,
    ]);
  } catch (error) {
    if (!(error instanceof TooHeavy)) throw error;
    return compareStreams(a, b, [`${error.message} Only the bytes were compared.`]);
  }
}

async function problemNotes(a: Subject, b: Subject): Promise<string[]> {
  const sides = [
    ['older', await lookAt(a)],
    ['newer', await lookAt(b)],
  ] as const;
  return sides.flatMap(([age, look]) =>
    look.problem ? [`The ${age} file could not be read part by part. ${look.problem}`] : [],
  );
}

/** Byte comparison of contents of any size, a piece at a time. */
async function compareStreams(
  a: Subject,
  b: Subject,
  notes: string[],
): Promise<{ value: Uint8Array; summary: string }> {
  const found = await firstDifferenceInStore(a.content_id, b.content_id);
  const change = found && bytesChange(found.offset, Number(a.size), Number(b.size), found.a, found.b);
  const side = (s: Subject): Comparison['a'] => ({
    name: '',
    bytes: Number(s.size),
    format: s.format,
    level: 'bytes',
    problem: null,
    notes: [],
  });
  const summary = change ? 'Content differs' : 'No change';
  const result: ComparisonResult = {
    comparison: {
      engine: ENGINE,
      level: 'bytes',
      unit: 'byte',
      a: side(a),
      b: side(b),
      notes,
      summary,
      changes: change ? [change] : [],
      causes: [],
      tolerance: 0,
      counts: { added: 0, removed: 0, changed: change ? 1 : 0, moved: 0, unchanged: change ? 0 : 1 },
    },
    picture: { pageA: null, pageB: null, pages: { a: [], b: [] }, outlines: {}, omitted: 0 },
  };
  return { value: zstdCompressSync(JSON.stringify(result)), summary };
}

const nextPiece = async (pieces: AsyncGenerator<Buffer, void>): Promise<Buffer> =>
  (await pieces.next()).value ?? Buffer.alloc(0);

async function firstDifferenceInStore(
  a: string,
  b: string,
): Promise<{ offset: number; a: number | undefined; b: number | undefined } | undefined> {
  const left = readContent(a);
  const right = readContent(b);
  let x: Buffer = Buffer.alloc(0);
  let y: Buffer = Buffer.alloc(0);
  let offset = 0;
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

/** What a new version will soon be asked for; in a job. */
export async function prepareVersion(versionId: string): Promise<void> {
  const row = await versionRow(versionId);
  await lookAt(row);
  await thumbnailOf(row, 96);
  await sketchFor(row);
  if (row.summary === null) await summarise(row);
}

/** Change summaries computed at once when a history is opened; the rest follow as they are looked at. */
const AHEAD = 40;

const wantsSummary = (row: VersionRow): boolean => row.summary === null && row.parent_content_id !== null;

/** Computes missing change summaries against the version before, newest first; in a job. */
export async function summariseFile(
  fileId: string,
  tell: (doing: string, done: number, total: number) => Promise<void>,
): Promise<void> {
  const rows = await many<VersionRow>(
    db(),
    `${versionSelect} where v.store_id = $1 and v.file_id = $2 order by v.made_at`,
    [STORE, fileId],
  );
  const missing = rows.filter(wantsSummary).slice(-AHEAD).reverse();
  for (const [i, row] of missing.entries()) {
    await tell('comparing with the version before', i, missing.length);
    await summarise(row);
  }
}

async function summarise(row: VersionRow): Promise<void> {
  const parent = await one<VersionRow>(
    db(),
    `
    select c.id as content_id, v.upload_name, c.size, c.format from version v join content c on c.store_id = v.store_id and c.id = v.content_id
    where v.store_id = $1 and v.id = (select parent_id from version where store_id = $1 and id = $2)`,
    [STORE, row.id],
  );
  if (parent) await comparisonValue(parent, row);
}

/** Has missing summaries of a history computed in the background. */
export async function summariseLater(fileId: string, rows: readonly VersionRow[]): Promise<void> {
  if (rows.some(wantsSummary))
    await enqueue(db(), { kind: 'summary', key: fileId, title: 'Summing up what changed', data: { fileId } });
}

/** How long a page waits for a worker to draw a thumbnail before this process draws it, in milliseconds. */
const PATIENCE = 4000;

/** A thumbnail, drawn by a worker if there is none yet; by this process where no worker comes. */
export async function thumbnailSoon(row: VersionRow, side: 96 | 320): Promise<Buffer | undefined> {
  const kind = `thumbnail.${side}`;
  const ready = async (): Promise<Buffer | undefined> => knownFact(row.content_id, kind);
  let png = await ready();
  if (!png && row.format && drawable.has(row.format) && Number(row.size) <= config.readLimit) {
    await enqueue(db(), {
      kind: 'look',
      key: row.id,
      title: `Looking into ${row.upload_name} v${row.number}`,
      data: { versionId: row.id },
    });
    for (const start = Date.now(); !png && Date.now() - start < PATIENCE; png = await ready())
      await new Promise((done) => setTimeout(done, 200));
    png ??= await thumbnailOf(row, side);
  }
  return png?.length ? png : undefined;
}
