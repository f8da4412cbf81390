import { z } from 'zod';
import { newPersonSchema, personSchema } from '../../../../contract/api.ts';
import { body, json, route } from '../../../../server/http/handler.ts';
import { listPeople, makePerson } from '../../../../server/people/service.ts';

export const GET = route(async (by) => json(z.array(personSchema), await listPeople(by)));

export const POST = route(async (by, { request }) =>
  json(personSchema, await makePerson(by, await body(request, newPersonSchema)), 201),
);
