/** A version with the files that it needs, as a ZIP. A pages handler, because it streams for as long as it takes. */
import { pipeline } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import { withReferencesQuerySchema } from '../../../../../contract/desk.ts';
import { contentDisposition } from '../../../../../server/http/disposition.ts';
import { download } from '../../../../../server/http/download.ts';
import { checkId } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { zipStream } from '../../../../../server/projects/archive.ts';
import { archiveWithReferences } from '../../../../../server/references/service.ts';

export const config = { api: { bodyParser: false, responseLimit: false, externalResolver: true } };

export default download(async (by, request: NextApiRequest, response: NextApiResponse) => {
  if (request.method !== 'GET') throw new Problem(405, 'method', 'An archive can only be read.');
  const id = String(request.query['versionId']);
  checkId('versionId', id);
  const archive = await archiveWithReferences(by, id, withReferencesQuerySchema.parse({ as: request.query['as'] }).as);
  response.status(200);
  response.setHeader('content-type', 'application/zip');
  response.setHeader('content-disposition', contentDisposition(archive.fileName));
  response.setHeader('cache-control', 'private, no-store');
  response.setHeader('x-content-type-options', 'nosniff');
  await pipeline(zipStream(archive.entries), response);
});
