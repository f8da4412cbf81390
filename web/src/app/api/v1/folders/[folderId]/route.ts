import { projects } from '../../../../../contract/operations/projects.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { noteRule, savesRule, setRule } from '../../../../../server/projects/rules.ts';
import { changeFolder } from '../../../../../server/projects/service.ts';

export const PATCH = serve(
  projects.changeFolder,
  async (by, { folderId, body: { noteRequired, savesCount, ...change } }) => {
    const where = { what: 'folder', id: folderId } as const;
    if (noteRequired !== undefined) await setRule(by, noteRule, where, noteRequired);
    if (savesCount !== undefined) await setRule(by, savesRule, where, savesCount);
    return changeFolder(by, folderId, change);
  },
);
