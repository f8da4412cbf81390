import { files } from '../../../../../../contract/operations/files.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { bringBack } from '../../../../../../server/sets/deleting.ts';

export const POST = serve(files.bringBack, (by, { fileId, body }) => bringBack(by, fileId, body));
