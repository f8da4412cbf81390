import { projects } from '../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { setNoteRule } from '../../../../../server/projects/notes.ts';
import { setWay } from '../../../../../server/saving/ways.ts';
import { getProject, renameProject } from '../../../../../server/projects/service.ts';

export const GET = serve(projects.get, (by, { projectId }) => getProject(by, projectId));

export const PATCH = serve(projects.change, async (by, { projectId, body: { name, noteRequired, savesCount } }) => {
  if (name !== undefined) await renameProject(by, projectId, name);
  if (noteRequired !== undefined) await setNoteRule(by, { projectId }, noteRequired);
  if (savesCount !== undefined) await setWay(by, { what: 'project', id: projectId }, savesCount);
  return getProject(by, projectId);
});
