import { people } from '../../../../../contract/operations/people.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { changePerson, deletePerson } from '../../../../../server/people/managing.ts';

export const PATCH = serve(people.change, (by, { personId, body }) => changePerson(by, personId, body));

export const DELETE = serve(people.remove, (by, { personId }) => deletePerson(by, personId));
