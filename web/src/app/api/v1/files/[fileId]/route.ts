import { files } from '../../../../../contract/operations/files.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { savesRule, setRule } from '../../../../../server/projects/rules.ts';
import { changeFile, getFile } from '../../../../../server/projects/service.ts';
import { deleteFile } from '../../../../../server/sets/deleting.ts';

export const GET = serve(files.get, (by, { fileId }) => getFile(by, fileId));

export const PATCH = serve(files.change, async (by, { fileId, body: { savesCount, ...change } }) => {
  if (savesCount !== undefined) await setRule(by, savesRule, { what: 'file', id: fileId }, savesCount);
  return Object.keys(change).length > 0 ? changeFile(by, fileId, change) : getFile(by, fileId);
});

export const DELETE = serve(files.remove, (by, { fileId, body }) => deleteFile(by, fileId, body.reason));
