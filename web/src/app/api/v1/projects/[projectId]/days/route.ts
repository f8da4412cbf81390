import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { daysOf } from '../../../../../../server/sets/as-of.ts';

export const GET = serve(projects.days, (by, { projectId, query }) => daysOf(by, projectId, query.folder));
