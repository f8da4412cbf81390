import { files } from '../../../../../../contract/operations/files.ts';
import { serveUpload } from '../../../../../../server/http/serve.ts';
import { makeFile } from '../../../../../../server/versions/checkin.ts';

export const POST = serveUpload(files.make, (by, { projectId }, { folderId = null, name, note = '', key }, incoming) =>
  makeFile(by, projectId, folderId, name, incoming, { note, key }),
);
