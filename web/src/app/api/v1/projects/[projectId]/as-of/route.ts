import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { asOf, bringForwardTo } from '../../../../../../server/sets/as-of.ts';

export const GET = serve(projects.asOf, (by, { projectId, query }) => asOf(by, projectId, query.at, query.folder));

export const POST = serve(projects.bringForwardTo, (by, { projectId, body }) => bringForwardTo(by, projectId, body));
