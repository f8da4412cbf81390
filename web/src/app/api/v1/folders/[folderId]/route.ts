import { projects } from '../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { setNoteRule } from '../../../../../server/projects/notes.ts';
import { changeFolder } from '../../../../../server/projects/service.ts';

export const PATCH = serve(projects.changeFolder, async (by, { folderId, body: { noteRequired, ...change } }) => {
  if (noteRequired !== undefined) await setNoteRule(by, { folderId }, noteRequired);
  return changeFolder(by, folderId, change);
});
