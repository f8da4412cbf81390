/** A project as a ZIP. A pages handler, because it streams for as long as it takes. */
import { pipeline } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { archiveQuerySchema } from '../../../../../contract/api.ts';
import { contentDisposition } from '../../../../../server/http/disposition.ts';
import { download } from '../../../../../server/http/download.ts';
import { checkId } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { archiveOf, zipStream } from '../../../../../server/projects/archive.ts';

export const config = { api: { bodyParser: false, responseLimit: false, externalResolver: true } };

export default download(async (by, request: NextApiRequest, response: NextApiResponse) => {
  if (request.method !== 'GET') throw new Problem(405, 'method', 'An archive can only be read.');
  const id = String(request.query['projectId']);
  checkId('projectId', id);
  const { at, folder } = archiveQuerySchema.parse({ at: request.query['at'], folder: request.query['folder'] });
  const archive = await archiveOf(by, id, folder, at ? new Date(at) : undefined);
  response.status(200);
  response.setHeader('content-type', 'application/zip');
  response.setHeader('content-disposition', contentDisposition(archive.fileName));
  response.setHeader('cache-control', 'private, no-store');
  response.setHeader('x-content-type-options', 'nosniff');
  await pipeline(zipStream(archive.entries), response);
});
