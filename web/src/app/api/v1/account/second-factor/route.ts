import { account } from '../../../../../contract/operations/account.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { beginSecondFactor, confirmSecondFactor } from '../../../../../server/people/account.ts';

export const POST = serve(account.beginSecondFactor, (by, { body }) => beginSecondFactor(by, body.own));

export const PUT = serve(account.confirmSecondFactor, (by, { body }) => confirmSecondFactor(by, body.code));
