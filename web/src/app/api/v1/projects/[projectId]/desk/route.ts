import { z } from 'zod';
import { deskFileSchema } from '../../../../../../contract/desk.ts';
import { json, route } from '../../../../../../server/http/handler.ts';
import { getProject } from '../../../../../../server/projects/service.ts';
import { deskFiles } from '../../../../../../server/references/service.ts';

export const GET = route(async (by, { params }) => {
  const project = await getProject(by, params['projectId'] ?? '');
  return json(z.array(deskFileSchema), await deskFiles(by, project.id));
});
