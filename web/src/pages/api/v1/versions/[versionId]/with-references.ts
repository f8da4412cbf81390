/** A version with the files that it needs, as a ZIP. A pages handler, because it streams for as long as it takes. */
import type { NextApiRequest, NextApiResponse } from 'next';
import { withReferencesQuerySchema } from '../../../../../contract/desk.ts';
import { download, sendArchive } from '../../../../../server/http/download.ts';
import { checked, checkId } from '../../../../../server/http/handler.ts';
import { Problem } from '../../../../../server/problem.ts';
import { archiveWithReferences } from '../../../../../server/references/service.ts';

export const config = { api: { bodyParser: false, responseLimit: false, externalResolver: true } };

export default download(async (by, request: NextApiRequest, response: NextApiResponse) => {
  if (request.method !== 'GET') throw new Problem(405, 'method', 'An archive can only be read.');
  const id = String(request.query['versionId']);
  checkId('versionId', id);
  const archive = await archiveWithReferences(
    by,
    id,
    checked(withReferencesQuerySchema, { as: request.query['as'] }).as,
  );
  await sendArchive(response, archive);
});
