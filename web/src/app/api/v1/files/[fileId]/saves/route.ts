import { saving } from '../../../../../../contract/operations/saving.ts';
import { serveUpload } from '../../../../../../server/http/serve.ts';
import { save } from '../../../../../../server/saving/service.ts';

export const POST = serveUpload(saving.save, (by, { fileId }, fields, incoming) => save(by, fileId, incoming, fields));
