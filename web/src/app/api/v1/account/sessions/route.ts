import { account } from '../../../../../contract/operations/account.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { endOtherSessions } from '../../../../../server/people/account.ts';

export const DELETE = serve(account.endOtherSessions, endOtherSessions);
