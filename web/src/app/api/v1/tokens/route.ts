import { z } from 'zod';
import { madeTokenSchema, newTokenSchema, tokenSchema } from '../../../../contract/desk.ts';
import { body, json, personally } from '../../../../server/http/handler.ts';
import { listTokens, makeToken } from '../../../../server/people/tokens.ts';

export const GET = personally(async (by) => json(z.array(tokenSchema), await listTokens(by)));

export const POST = personally(async (by, { request }) =>
  json(madeTokenSchema, await makeToken(by, await body(request, newTokenSchema)), 201),
);
