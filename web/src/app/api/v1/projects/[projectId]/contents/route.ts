import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { contentsOf } from '../../../../../../server/projects/service.ts';

export const GET = serve(projects.contents, (by, { projectId, query }) =>
  contentsOf(by, projectId, query.folder ?? null),
);
