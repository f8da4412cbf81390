import { people } from '../../../../../../contract/operations/people.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { endSecondFactorOf } from '../../../../../../server/people/managing.ts';

export const DELETE = serve(people.endSecondFactor, (by, { personId }) => endSecondFactorOf(by, personId));
