import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { titleState } from '../../../../../../server/sets/titled-state.ts';

export const POST = serve(projects.titleState, (by, { projectId, body }) => titleState(by, projectId, body));
