import { changeFolderSchema, folderSchema } from '../../../../../contract/api.ts';
import { body, json, route } from '../../../../../server/http/handler.ts';
import { setNoteRule } from '../../../../../server/projects/notes.ts';
import { changeFolder } from '../../../../../server/projects/service.ts';

export const PATCH = route(async (by, { request, params }) => {
  const folderId = params['folderId'] ?? '';
  const { noteRequired, ...change } = await body(request, changeFolderSchema);
  if (noteRequired !== undefined) await setNoteRule(by, { folderId }, noteRequired);
  return json(folderSchema, await changeFolder(by, folderId, change));
});
