import { projects } from '../../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { foldersOf, makeFolder } from '../../../../../../server/projects/service.ts';

export const GET = serve(projects.folders, (by, { projectId }) => foldersOf(by, projectId));

export const POST = serve(projects.makeFolder, (by, { projectId, body: { parentId, name } }) =>
  makeFolder(by, projectId, parentId, name),
);
