import { fileHistorySchema, historyQuerySchema } from '../../../../../../contract/history.ts';
import { json, query, route } from '../../../../../../server/http/handler.ts';
import { fileHistory } from '../../../../../../server/ledger/history.ts';

export const GET = route(async (by, { url, params }) =>
  json(fileHistorySchema, await fileHistory(by, params['fileId'] ?? '', query(url, historyQuerySchema).before)),
);
