/** A project as a ZIP. A pages handler, because it streams for as long as it takes. */
import type { NextApiRequest, NextApiResponse } from 'next';
import { archiveQuerySchema } from '../../../../../contract/api.ts';
import { download, sendArchive } from '../../../../../server/http/download.ts';
import { checked, checkId } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { archiveOf } from '../../../../../server/projects/archive.ts';

export const config = { api: { bodyParser: false, responseLimit: false, externalResolver: true } };

export default download(async (by, request: NextApiRequest, response: NextApiResponse) => {
  if (request.method !== 'GET') throw new Problem(405, 'method', 'An archive can only be read.');
  const id = String(request.query['projectId']);
  checkId('projectId', id);
  const { at, folder } = checked(archiveQuerySchema, { at: request.query['at'], folder: request.query['folder'] });
  const archive = await archiveOf(by, id, folder, at ? new Date(at) : undefined);
  await sendArchive(response, archive);
});
