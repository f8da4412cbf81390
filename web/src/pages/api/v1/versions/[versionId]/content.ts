/** Downloads. A pages handler, because route handlers lose Content-Length. */
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import type { NextApiRequest, NextApiResponse } from 'next';
import { begun } from '../../../../../server/http/begun.ts';
import { checkId } from '../../../../../server/http/handler.ts';
import { attachment } from '../../../../../server/http/disposition.ts';
import { download } from '../../../../../server/http/download.ts';
import { parseRange } from '../../../../../server/http/range.ts';
import { Problem } from '../../../../../server/problem.ts';
import { downloadOf, fetched } from '../../../../../server/versions/download.ts';
import { readContent } from '../../../../../server/store/reader.ts';

export const config = { api: { bodyParser: false, responseLimit: false, externalResolver: true } };

export default download(async (by, request: NextApiRequest, response: NextApiResponse) => {
  if (request.method !== 'GET' && request.method !== 'HEAD')
    throw new Problem(405, 'method', 'Versions never change: they can only be read here.');
  const id = String(request.query['versionId']);
  checkId('versionId', id);
  const { contentId, size, sha256, fileName, mime } = await downloadOf(by, id);
  const etag = `"${sha256}"`;
  response.setHeader('etag', etag);
  response.setHeader('accept-ranges', 'bytes');
  response.setHeader('cache-control', 'private, no-cache');
  const known = request.headers['if-none-match'];
  if (known && (known === '*' || known.split(/\s*,\s*/).some((tag) => tag.replace(/^W\//, '') === etag))) {
    response.status(304).end();
    return;
  }
  const ifRange = request.headers['if-range'];
  const range = ifRange && ifRange !== etag ? undefined : parseRange(request.headers.range, size);
  if (range === 'unsatisfiable') {
    response.setHeader('content-range', `bytes */${size}`);
    throw new Problem(416, 'range', `The file has ${size} bytes; the range that was asked for lies outside.`);
  }
  // The first piece is had before anything is sent: what is damaged is refused with a sentence.
  const pieces =
    request.method === 'HEAD'
      ? undefined
      : await begun(readContent(contentId, range?.start ?? 0, range?.end ?? Infinity));
  response.status(range ? 206 : 200);
  response.setHeader('content-type', mime);
  response.setHeader('content-disposition', attachment(fileName));
  response.setHeader('x-content-type-options', 'nosniff');
  response.setHeader('content-security-policy', "default-src 'none'; sandbox");
  response.setHeader('content-length', range ? range.end - range.start : size);
  if (range) response.setHeader('content-range', `bytes ${range.start}-${range.end - 1}/${size}`);
  if (!pieces) {
    response.end();
    return;
  }
  await pipeline(Readable.from(pieces), response);
  if (isForKeeping(request)) await fetched(by, id);
});

/** A page that shows a version asks by itself; people and programs that take one away do not say that a script asks. */
const isForKeeping = ({ headers }: NextApiRequest): boolean =>
  headers.range === undefined && [undefined, 'navigate'].includes(headers['sec-fetch-mode']);
