import { projects } from '../../../../contract/operations/projects.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listProjects, makeProject } from '../../../../server/projects/service.ts';

export const GET = serve(projects.list, listProjects);

export const POST = serve(projects.make, (by, { body }) => makeProject(by, body.name));
