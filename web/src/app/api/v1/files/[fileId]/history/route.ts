import { files } from '../../../../../../contract/operations/files.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { fileHistory } from '../../../../../../server/ledger/history.ts';

export const GET = serve(files.history, (by, { fileId, query }) => fileHistory(by, fileId, query));
