import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { listDeleted } from '../../../../../../server/sets/deleting.ts';

export const GET = serve(projects.deleted, (by, { projectId }) => listDeleted(by, projectId));
