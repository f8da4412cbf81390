import { changeProjectSchema, projectSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { setNoteRule } from '../../../../../server/projects/notes.ts';
import { getProject, renameProject } from '../../../../../server/projects/service.ts';

export const GET = route(async (by, { params }) =>
  json(projectSchema, await getProject(by, params['projectId'] ?? '')),
);

export const PATCH = route(async (by, { request, params }) => {
  const projectId = params['projectId'] ?? '';
  const { name, noteRequired } = await body(request, changeProjectSchema);
  if (name !== undefined) await renameProject(by, projectId, name);
  if (noteRequired !== undefined) await setNoteRule(by, { projectId }, noteRequired);
  return json(projectSchema, await getProject(by, projectId));
});
