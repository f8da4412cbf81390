/** Versions as pictures for the viewer. What a file carries (scripts, references) is switched off by policy. */
import { ENGINE, formatById, type Box } from '@ovrel/core';
import type { z } from 'zod';
import type { Person, viewQuerySchema } from '../../contract/api.ts';
import { contentDisposition } from '../http/disposition.ts';
import { permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { needsOf } from '../references/service.ts';
import { readContent, readWhole } from '../store/reader.ts';
import {
  drawingOf,
  drawnOf,
  layerOf,
  lookAt,
  oraOf,
  PAGE_SIDE,
  partOf,
  pngOf,
  sceneBytesOf,
  thumbnailSoon,
} from './facts.ts';
import { versionRow, type VersionRow } from './rows.ts';

/** Nothing runs, nothing is fetched, and the picture cannot act as a page. */
const POLICY = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox";

/** Pictures that every browser shows as they are. */
const shown: ReadonlySet<string> = new Set(['svg', 'png', 'jpeg', 'gif', 'webp', 'avif']);
/** Pictures and pages that are drawn for browsers. */
const decoded: ReadonlySet<string> = new Set(['tiff', 'pdf', 'ora', 'psd']);

/** Of moving pictures, frames after the first are shown one by one. */
const moving: ReadonlySet<string> = new Set(['gif', 'webp']);

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

export async function viewOf(
  by: Person,
  versionId: string,
  ifNoneMatch: string | null,
  { page, box, side, layer, drawn, as, download }: z.output<typeof viewQuerySchema> = { page: 0 },
): Promise<Response> {
  await permitVersion(by, versionId);
  const row = await versionRow(versionId);
  if (row.format === 'dxf') return drawnView(row, page, ifNoneMatch, box, download !== undefined);
  if (as) return asFile(row);
  if (layer !== undefined)
    return pngView(
      row,
      `layer-${layer}`,
      ifNoneMatch,
      () => layerOf(row, layer),
      `This version has no layer ${layer + 1} that can be shown.`,
    );
  if (drawn)
    return pngView(
      row,
      `drawn-${page}`,
      ifNoneMatch,
      () => drawnOf(row, page),
      `This version has no page ${page + 1} that can be drawn.`,
    );
  // Seen closely, parts of a page are drawn anew; they are too many to be kept.
  if (row.format === 'pdf' && box)
    return pngView(
      row,
      `${page}-${box.join('-')}-${side ?? PAGE_SIDE}`,
      ifNoneMatch,
      () => partOf(row, page, box, side ?? PAGE_SIDE),
      'The page cannot be drawn.',
    );
  if (row.format && (decoded.has(row.format) || (page > 0 && moving.has(row.format))))
    return pngView(row, String(page), ifNoneMatch, () => pngOf(row, page, PAGE_SIDE), 'The picture cannot be decoded.');
  const format = row.format && shown.has(row.format) ? formatById(row.format) : undefined;
  if (!format) throw noPicture('This kind of file has no picture to show.');
  const etag = `"view-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const look = await lookAt(row);
  // Of a damaged picture browsers show what they can, each its own way.
  if (look.picture?.damaged)
    return pngView(row, 'hatched', ifNoneMatch, () => pngOf(row, 0, PAGE_SIDE), 'The picture cannot be decoded.');
  if (format.id === 'svg' && look.level !== 'parts') throw noPicture(look.problem ?? 'The drawing cannot be read.');
  const { viewTag: tag } = look;
  const pictures = tag ? await picturesThen(by, versionId) : new Map<string, string>();
  const pieces = tag
    ? pictures.size
      ? shownWith(pictures, tagged(row.content_id, tag))
      : tagged(row.content_id, tag)
    : readContent(row.content_id);
  return new Response(streamOf(pieces), {
    headers: safe(tag || format.id !== 'svg' ? format.mime : `${format.mime}; charset=utf-16`, etag),
  });
}

/** Something that was drawn for browsers. */
async function pngView(
  row: VersionRow,
  what: string,
  ifNoneMatch: string | null,
  draw: () => Promise<Buffer | undefined>,
  sentence: string,
): Promise<Response> {
  const etag = `"view-${ENGINE.replace('/', '-')}-${what}-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const png = await draw();
  if (!png) throw noPicture((await lookAt(row)).problem ?? sentence);
  return new Response(Uint8Array.from(png), { headers: safe('image/png', etag) });
}

async function asFile(row: VersionRow): Promise<Response> {
  const bytes = await oraOf(row);
  if (!bytes) throw noPicture('This version is no layered picture that can be read.');
  return new Response(Uint8Array.from(bytes), {
    headers: {
      'content-type': 'image/openraster',
      'content-disposition': contentDisposition(`${row.upload_name.replace(/\.[^.]+$/, '')} v${row.number}.ora`),
      'cache-control': 'private, no-store',
      'x-content-type-options': 'nosniff',
    },
  });
}

/** A page that no browser shows by itself, drawn from its parts. */
async function drawnView(
  row: VersionRow,
  page: number,
  ifNoneMatch: string | null,
  box: Box | undefined,
  download: boolean,
): Promise<Response> {
  const etag = `"view-${ENGINE.replace('/', '-')}-${page}${box ? `-${box.join('-')}` : ''}-${row.hash.toString('hex')}"`;
  if (ifNoneMatch === etag) return new Response(null, { status: 304, headers: { etag } });
  const drawing = await drawingOf(row, page, box);
  if (!drawing.length)
    throw noPicture((await lookAt(row)).problem ?? `This version has no page ${page + 1} that can be drawn.`);
  return new Response(Uint8Array.from(drawing), {
    headers: {
      ...safe('image/svg+xml; charset=utf-8', etag),
      ...(download
        ? { 'content-disposition': contentDisposition(`${row.upload_name.replace(/\.[^.]+$/, '')} v${row.number}.svg`) }
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
  if (!packed.length)
    throw noPicture(
      (await lookAt(row)).problem ?? `This version has no page ${page + 1} that can be drawn from its parts.`,
    );
  return new Response(Uint8Array.from(packed), { headers: safe('application/gzip', etag) });
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

/** Pictures of the project that a drawing shows, as they were when it was saved: data URIs by the name that the drawing has for them. */
async function picturesThen(by: Person, versionId: string): Promise<Map<string, string>> {
  const out = new Map<string, string>();
  let left = MOST_PICTURES;
  for (const { target, kind, then } of await needsOf(by, versionId)) {
    if (kind !== 'picture' || !then) continue;
    const row = await versionRow(then.id);
    const format = row.format && shown.has(row.format) ? formatById(row.format) : undefined;
    if (!format || Number(row.size) > left) continue;
    left -= Number(row.size);
    out.set(target, `data:${format.mime};base64,${(await readWhole(row.content_id)).toString('base64')}`);
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
  side: 96 | 320,
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
export function streamOf(pieces: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> {
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
