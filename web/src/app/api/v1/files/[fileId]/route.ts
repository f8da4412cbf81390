import { files } from '../../../../../contract/operations/files.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { changeFile, getFile } from '../../../../../server/projects/service.ts';
import { deleteFile } from '../../../../../server/sets/deleting.ts';

export const GET = serve(files.get, (by, { fileId }) => getFile(by, fileId));

export const PATCH = serve(files.change, (by, { fileId, body }) => changeFile(by, fileId, body));

export const DELETE = serve(files.remove, (by, { fileId, body }) => deleteFile(by, fileId, body.reason));
