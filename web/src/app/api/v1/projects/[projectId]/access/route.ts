import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { listAccess, setAccess } from '../../../../../../server/people/granting.ts';

export const GET = serve(projects.access, (by, { projectId, query }) =>
  listAccess(by, { projectId, folderId: query.folder ?? null }),
);

export const PUT = serve(projects.setAccess, (by, { projectId, body: { folderId, personId, rights } }) =>
  setAccess(by, { projectId, folderId }, personId, rights),
);
