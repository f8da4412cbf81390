import { references } from '../../../../../../contract/operations/references.ts';
import { serve } from '../../../../../../server/http/serve.ts';
import { addReference, removeReference } from '../../../../../../server/references/service.ts';

export const POST = serve(references.add, (by, { fileId, body }) => addReference(by, fileId, body.to, body.says));

export const DELETE = serve(references.remove, (by, { fileId, body }) => removeReference(by, fileId, body.to));
