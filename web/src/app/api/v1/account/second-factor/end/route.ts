import { account } from '../../../../../../contract/operations/account.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { endSecondFactor } from '../../../../../../server/people/account.ts';

export const POST = serve(account.endSecondFactor, (by, { body }) => endSecondFactor(by, body.own));
