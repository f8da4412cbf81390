import { projects } from '../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { noteRule, savesRule, setRule } from '../../../../../server/projects/rules.ts';
import { setSittingPause } from '../../../../../server/projects/sittings.ts';
import { getProject, renameProject } from '../../../../../server/projects/service.ts';

export const GET = serve(projects.get, (by, { projectId }) => getProject(by, projectId));

export const PATCH = serve(projects.change, async (by, { projectId, body }) => {
  const { name, noteRequired, savesCount, sittingPause } = body;
  const where = { what: 'project', id: projectId } as const;
  if (name !== undefined) await renameProject(by, projectId, name);
  if (noteRequired !== undefined) await setRule(by, noteRule, where, noteRequired);
  if (savesCount !== undefined) await setRule(by, savesRule, where, savesCount);
  if (sittingPause !== undefined) await setSittingPause(by, projectId, sittingPause);
  return getProject(by, projectId);
});
