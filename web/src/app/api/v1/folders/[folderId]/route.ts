import { projects } from '../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { setNoteRule } from '../../../../../server/projects/notes.ts';
import { setWay } from '../../../../../server/saving/ways.ts';
import { changeFolder } from '../../../../../server/projects/service.ts';

export const PATCH = serve(
  projects.changeFolder,
  async (by, { folderId, body: { noteRequired, savesCount, ...change } }) => {
    if (noteRequired !== undefined) await setNoteRule(by, { folderId }, noteRequired);
    if (savesCount !== undefined) await setWay(by, { what: 'folder', id: folderId }, savesCount);
    return changeFolder(by, folderId, change);
  },
);
