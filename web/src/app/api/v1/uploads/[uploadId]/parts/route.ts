import { sending } from '../../../../../../contract/operations/sending.ts';
import { serveUpload } from '../../../../../../server/http/serve.ts';
import { addPart } from '../../../../../../server/sending/service.ts';

export const POST = serveUpload(sending.part, (by, { uploadId }, { at }, incoming) =>
  addPart(by, uploadId, at, incoming),
);
