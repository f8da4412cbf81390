import { tokens } from '../../../../../contract/operations/tokens.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { revokeToken } from '../../../../../server/people/tokens.ts';

export const DELETE = serve(tokens.revoke, (by, { tokenId }) => revokeToken(by, tokenId));
