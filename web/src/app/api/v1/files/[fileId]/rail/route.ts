import { files } from '../../../../../../contract/operations/files.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { railOf } from '../../../../../../server/versions/service.ts';

export const GET = serve(files.rail, (by, { fileId, query }) => railOf(by, fileId, query.line));
