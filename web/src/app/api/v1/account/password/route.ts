import { account } from '../../../../../contract/operations/account.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { changePassword } from '../../../../../server/people/account.ts';

export const PUT = serve(account.setPassword, (by, { body }) => changePassword(by, body.own, body.password));
