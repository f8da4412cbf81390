import { people } from '../../../../../../contract/operations/people.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { endSessionsOf } from '../../../../../../server/people/managing.ts';

export const DELETE = serve(people.endSessions, (by, { personId }) => endSessionsOf(by, personId));
