import { z } from 'zod';
import { nameSchema, projectSchema } from '../../../../contract/api.ts';
import { body, json, route } from '../../../../server/http/handler.ts';
import { listProjects, makeProject } from '../../../../server/projects/service.ts';

export const GET = route(async (by) => json(z.array(projectSchema), await listProjects(by)));

export const POST = route(async (by, { request }) =>
  json(projectSchema, await makeProject(by, (await body(request, nameSchema)).name), 201),
);
