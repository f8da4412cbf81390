import { tokens } from '../../../../contract/operations/tokens.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listTokens, makeToken } from '../../../../server/people/tokens.ts';

export const GET = serve(tokens.list, listTokens);

export const POST = serve(tokens.make, (by, { body }) => makeToken(by, body));
