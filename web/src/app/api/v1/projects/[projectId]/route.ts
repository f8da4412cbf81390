import { nameSchema, projectSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { getProject, renameProject } from '../../../../../server/projects/service.ts';


export const GET = route(async (by, { params }) => json(projectSchema, await getProject(by, params['projectId'] ?? '')));

export const PATCH = route(async (by, { request, params }) =>
  json(projectSchema, await renameProject(by, params['projectId'] ?? '', (await body(request, nameSchema)).name)));
