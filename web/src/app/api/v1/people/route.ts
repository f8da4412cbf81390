import { people } from '../../../../contract/operations/people.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listPeople, makePerson } from '../../../../server/people/managing.ts';

export const GET = serve(people.list, listPeople);

export const POST = serve(people.add, (by, { body }) => makePerson(by, body));
