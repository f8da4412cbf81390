import { projects } from '../../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../../server/http/serve.ts';
import { branchProject } from '../../../../../../../server/sets/branch-project.ts';

export const POST = serve(projects.branchProject, (by, { projectId, body }) => branchProject(by, projectId, body));
