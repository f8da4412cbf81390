import { people } from '../../../../../../contract/operations/people.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { givePassword } from '../../../../../../server/people/managing.ts';

export const PUT = serve(people.setPassword, (by, { personId, body }) => givePassword(by, personId, body.password));
