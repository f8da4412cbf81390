import { saving } from '../../../../../../contract/operations/saving.ts';
import { serveUpload } from '../../../../../../server/http/serve.ts';
import { wholeOf } from '../../../../../../server/versions/delta-upload.ts';
import { save } from '../../../../../../server/saving/service.ts';

export const POST = serveUpload(saving.save, async (by, { fileId }, fields, incoming) =>
  save(by, fileId, await wholeOf(by, incoming, fields), fields),
);
