import { account } from '../../../../contract/operations/account.ts';
import { serve } from '../../../../server/http/serve.ts';
import { accountOf } from '../../../../server/people/account.ts';

export const GET = serve(account.get, accountOf);
