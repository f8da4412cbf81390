import { tokenSchema } from '../../../../../contract/desk.ts';
import { json, personally } from '../../../../../server/http/handler.ts';
import { revokeToken } from '../../../../../server/people/tokens.ts';

export const DELETE = personally(async (by, { params }) =>
  json(tokenSchema, await revokeToken(by, params['tokenId'] ?? '')),
);
