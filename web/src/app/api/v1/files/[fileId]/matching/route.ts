import { files } from '../../../../../../contract/operations/files.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { matchingVersions } from '../../../../../../server/ledger/history.ts';

export const GET = serve(files.matching, (by, { fileId, query }) => matchingVersions(by, fileId, query));
