import { desk } from '../../../../../../contract/operations/desk.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { getProject } from '../../../../../../server/projects/service.ts';
import { deskFiles } from '../../../../../../server/references/service.ts';

export const GET = serve(desk.files, async (by, { projectId }) => {
  const project = await getProject(by, projectId);
  return deskFiles(by, project.id);
});
