/** Versions as pictures for the viewer. What a file carries (scripts, references) is switched off by policy. */
import { flatTypes } from '@ovrel/core/contract';
import { cardOf, detect, ENGINE, HEAD_BYTES, type Card } from '@ovrel/core';
import type { z } from 'zod';
import type { Person, viewQuerySchema } from '../../contract/api.ts';
import {
  drawingOf,
  layerOf,
  openRasterOf,
  PAGE_SIDE,
  pageOf,
  partOf,
  sceneBytesOf,
  flatOf,
  flatViewsOf,
  cellBytesOf,
  spaceBytesOf,
  type Flat,
  seenPageOf,
} from '../facts/drawn.ts';
import type { ThumbnailSide } from '../facts/thumbnail.ts';
import { lookAt } from '../facts/look.ts';
import { attachment } from '../http/disposition.ts';
import type { Subject } from '../facts/subject.ts';
import { permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { needsOf } from '../references/service.ts';
import { readContent, readWhole } from '../store/reader.ts';
import { asPdf } from './as-pdf.ts';
import { thumbnailSoon } from './prepare.ts';
import { versionRow, type VersionRow } from './rows.ts';

/** Nothing runs, nothing is fetched, and the picture cannot act as a page. */
const POLICY = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox";

const safe = (type: string, etag: string): Record<string, string> => ({
  'content-type': type,
  'content-security-policy': POLICY,
  'x-content-type-options': 'nosniff',
  etag,
  'cache-control': 'private, max-age=31536000, immutable',
  vary: 'cookie, authorization',
  'cross-origin-resource-policy': 'same-origin',
});

const noPicture = (sentence: string): Problem => new Problem(415, 'no-picture', sentence);

type Query = z.output<typeof viewQuerySchema>;

/** One answer for a version: what is asked for, if it can be had. */
export async function viewOf(
  by: Person,
  versionId: string,
  ifNoneMatch: string | null,
  query: Query = { page: 0 },
): Promise<Response> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  const card = cardOf(row.format);
  if (query.as === 'document') return savedAs(row, await asPdf(row));
  // As it is compared with something of another kind, it is as large as it was then.
  if (card?.show === 'parts' && !query.drawn) return drawnView(row, query, ifNoneMatch);
  if (query.as) return asFile(row);
  const made = madeFor(row, card, query);
  if (made) return pngView(row, ifNoneMatch, made);
  if (card?.show !== 'itself') throw noPicture('This kind of file has no picture to show.');
  return asItIs(by, row, card, ifNoneMatch);
}

/** A picture that is made for browsers. */
interface Made {
  readonly what: string;
  readonly draw: () => Promise<Buffer | undefined>;
  /** Said where it cannot be made. */
  readonly sentence: string;
}

/** Undefined where browsers show the content itself. */
function madeFor(row: VersionRow, card: Card | undefined, { page, box, side, layer, drawn }: Query): Made | undefined {
  if (layer !== undefined)
    return {
      what: `layer-${layer}`,
      draw: () => layerOf(row, layer),
      sentence: `This version has no layer ${layer + 1} that can be shown.`,
    };
  if (drawn)
    return {
      what: `drawn-${page}`,
      draw: () => seenPageOf(row, page),
      sentence: `This version has no page ${page + 1} that can be drawn.`,
    };
  // Seen closely, parts of a page are drawn anew; they are too many to be kept.
  if (card?.fine && box)
    return {
      what: `${page}-${box.join('-')}-${side ?? PAGE_SIDE}`,
      draw: () => partOf(row, page, box, side ?? PAGE_SIDE),
      sentence: 'The page cannot be drawn.',
    };
  // Of moving pictures, frames after the first are shown one by one.
  const ownFrame = page > 0 && card?.pages === 'frames';
  if (card?.show !== 'decoded' && !ownFrame) return undefined;
  return { what: String(page), draw: () => pageOf(row, page), sentence: 'The picture cannot be decoded.' };
}

/** The content itself; a drawing with a size that browsers cannot misread, and with its pictures in it. */
async function asItIs(by: Person, row: VersionRow, card: Card, ifNoneMatch: string | null): Promise<Response> {
  const etag = `"view-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const look = await lookAt(row);
  // Of a damaged picture browsers show what they can, each its own way.
  if (look.picture?.damaged)
    return pngView(row, ifNoneMatch, {
      what: 'hatched',
      draw: () => pageOf(row, 0),
      sentence: 'The picture cannot be decoded.',
    });
  if (!card.kinds.includes('drawing')) return shownAs(readContent(row.content_id), card.mime, etag);
  if (look.level !== 'parts') throw noPicture(look.problem ?? 'The drawing cannot be read.');
  const { viewTag: tag } = look;
  // Without a place for its tag it was written in two bytes a character.
  if (!tag) return shownAs(readContent(row.content_id), `${card.mime}; charset=utf-16`, etag);
  const pictures = await picturesThen(by, row.id);
  const pieces = tagged(row.content_id, tag);
  return shownAs(pictures.size ? shownWith(pictures, pieces) : pieces, card.mime, etag);
}

const shownAs = (pieces: AsyncGenerator<Uint8Array>, type: string, etag: string): Response =>
  new Response(streamOf(pieces), { headers: safe(type, etag) });

/** Something that was drawn for browsers. */
async function pngView(row: VersionRow, ifNoneMatch: string | null, { what, draw, sentence }: Made): Promise<Response> {
  const etag = `"view-${ENGINE.replace('/', '-')}-${what}-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const png = await draw();
  if (!png) throw noPicture((await lookAt(row)).problem ?? sentence);
  return new Response(Uint8Array.from(png), { headers: safe('image/png', etag) });
}

async function asFile(row: VersionRow): Promise<Response> {
  const bytes = await openRasterOf(row);
  if (!bytes) throw noPicture('This version is no layered picture that can be read.');
  return savedAs(row, bytes);
}

/** Something that was made of a version, under its name with the usual ending. */
function savedAs(row: VersionRow, bytes: Uint8Array): Response {
  const card = detect(bytes.subarray(0, HEAD_BYTES), '');
  const name = `${row.upload_name.replace(/\.[^.]+$/, '')} v${row.number}.${card?.extensions[0] ?? 'bin'}`;
  return new Response(Uint8Array.from(bytes), {
    headers: {
      'content-type': card?.mime ?? 'application/octet-stream',
      'content-disposition': attachment(name),
      'cache-control': 'private, no-store',
      'x-content-type-options': 'nosniff',
    },
  });
}

/** A page that no browser shows by itself, drawn from its parts. */
async function drawnView(
  row: VersionRow,
  { page, box, download }: Query,
  ifNoneMatch: string | null,
): Promise<Response> {
  const area = box ? `-${box.join('-')}` : '';
  const etag = `"view-${ENGINE.replace('/', '-')}-${page}${area}-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const drawing = await drawingOf(row, page, box);
  if (!drawing)
    throw noPicture((await lookAt(row)).problem ?? `This version has no page ${page + 1} that can be drawn.`);
  return new Response(Uint8Array.from(drawing), {
    headers: {
      ...safe('image/svg+xml; charset=utf-8', etag),
      ...(download !== undefined
        ? { 'content-disposition': attachment(`${row.upload_name.replace(/\.[^.]+$/, '')} v${row.number}.svg`) }
        : {}),
    },
  });
}

/** A page as arrays for a graphics processor (core/src/draw/packed.ts), gzipped as a whole. */
export async function sceneResponse(by: Person, versionId: string, page: number, request: Request): Promise<Response> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  const etag = `"scene-${ENGINE.replace('/', '-')}-${page}-${row.hash.toString('hex')}"`;
  if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
  const packed = await sceneBytesOf(row, page);
  if (!packed)
    throw noPicture(
      (await lookAt(row)).problem ?? `This version has no page ${page + 1} that can be drawn from its parts.`,
    );
  return new Response(Uint8Array.from(packed), { headers: safe('application/gzip', etag) });
}

interface Packed {
  readonly name: string;
  readonly bytesOf: (row: Subject) => Promise<Buffer | undefined>;
  readonly missing: string;
}

/** A model as arrays for a graphics processor (core/src/kinds/solid/packed.ts), gzipped as a whole. */
export const spaceResponse = packedResponse({
  name: 'space',
  bytesOf: spaceBytesOf,
  missing: 'This version is no model that can be shown in space.',
});

/** A table as JSON (core/src/kinds/table/packed.ts), gzipped as a whole. */
export const cellsResponse = packedResponse({
  name: 'cells',
  bytesOf: cellBytesOf,
  missing: 'This version is no table that can be shown.',
});

function packedResponse({ name, bytesOf, missing }: Packed) {
  return async (by: Person, versionId: string, request: Request): Promise<Response> => {
    await permitVersion(by, versionId);
    const row = await versionRow(versionId);
    const etag = `"${name}-${ENGINE.replace('/', '-')}-${row.hash.toString('hex')}"`;
    if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers: { etag } });
    const packed = await bytesOf(row);
    if (!packed?.length) throw noPicture((await lookAt(row)).problem ?? missing);
    return new Response(Uint8Array.from(packed), { headers: safe('application/gzip', etag) });
  };
}

/** A model drawn flat, to be saved. */
export async function flatResponse(by: Person, versionId: string, asked: Flat): Promise<Response> {
  await permitVersion(by, versionId);
  const drawn = await flatOf(await versionRow(versionId), asked);
  if (!drawn?.length) throw noPicture('Nothing of this version can be drawn so.');
  return new Response(Uint8Array.from(drawn), {
    headers: {
      'content-type': flatTypes[asked.format],
      'content-disposition': 'attachment',
      'x-content-type-options': 'nosniff',
      'cache-control': 'no-store',
    },
  });
}

export async function flatViews(by: Person, versionId: string): Promise<{ views: string[] }> {
  await permitVersion(by, versionId);
  return { views: [...(await flatViewsOf(await versionRow(versionId)))] };
}

/** The content with its root tag replaced. */
async function* tagged(
  contentId: string,
  { start, end, tag }: { start: number; end: number; tag: string },
): AsyncGenerator<Buffer> {
  yield* readContent(contentId, 0, start);
  yield Buffer.from(tag, 'utf8');
  yield* readContent(contentId, end);
}

/** Bytes of referenced pictures that are shown within a drawing, at most. */
const MOST_PICTURES = 12 * 1024 * 1024;

/**
 * Pictures of the project that a drawing shows, as they were when it was saved: data URIs by the name that the
 * drawing has for them.
 */
async function picturesThen(by: Person, versionId: string): Promise<Map<string, string>> {
  const out = new Map<string, string>();
  let left = MOST_PICTURES;
  for (const { target, kind, then } of await needsOf(by, versionId)) {
    if (kind !== 'picture' || !then) continue;
    const row = await versionRow(then.id);
    const card = cardOf(row.format);
    if (card?.show !== 'itself' || Number(row.size) > left) continue;
    left -= Number(row.size);
    out.set(target, `data:${card.mime};base64,${(await readWhole(row.content_id)).toString('base64')}`);
  }
  return out;
}

/** Puts pictures in the place of their names. Nothing else of the drawing is touched. */
async function* shownWith(
  pictures: ReadonlyMap<string, string>,
  pieces: AsyncIterable<Buffer>,
): AsyncGenerator<Buffer> {
  const parts: Buffer[] = [];
  for await (const piece of pieces) parts.push(piece);
  // One character a byte, so that every byte comes back as it was.
  const text = Buffer.concat(parts).toString('latin1');
  yield Buffer.from(
    text.replace(
      /(<(?:[\w-]+:)?(?:image|feImage)\b[^<>]*?\s(?:xlink:)?href\s*=\s*)(["'])([^"'<>]*)\2/g,
      (whole, before: string, quote: string, written: string) => {
        const name = Buffer.from(written, 'latin1').toString('utf8').replace(/&amp;/g, '&').trim();
        const picture = pictures.get(name);
        return picture ? `${before}${quote}${picture}${quote}` : whole;
      },
    ),
    'latin1',
  );
}

export async function thumbnailResponse(
  by: Person,
  versionId: string,
  side: ThumbnailSide,
  ifNoneMatch: string | null,
): Promise<Response> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  const etag = `"thumbnail-${side}-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const png = await thumbnailSoon(row, side);
  if (!png) throw new Problem(404, 'no-picture', 'This version has no picture.');
  return new Response(Uint8Array.from(png), { headers: safe('image/png', etag) });
}

/** A stream that survives a reader who goes away. */
function streamOf(pieces: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> {
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done) controller.close();
      else controller.enqueue(next.value);
    },
    async cancel() {
      await pieces.return(undefined);
    },
  });
}
