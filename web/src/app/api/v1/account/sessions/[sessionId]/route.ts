import { account } from '../../../../../../contract/operations/account.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { endSession } from '../../../../../../server/people/account.ts';

export const DELETE = serve(account.endSession, (by, { sessionId }) => endSession(by, sessionId));
