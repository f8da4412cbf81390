import { z } from 'zod';
import { fileSchema } from '../../../../../../contract/api.ts';
import { checkId, json, route } from '../../../../../../server/http/handler.ts';
import { withUpload } from '../../../../../../server/http/multipart.ts';
import { makeFile } from '../../../../../../server/versions/checkin.ts';

export const POST = route(async (by, { request, params }) =>
  withUpload(request, async (fields, incoming) => {
    const folder = fields['folderId'] || null;
    if (folder) checkId('folderId', folder);
    const made = await makeFile(by, params['projectId'] ?? '', folder, fields['name'] || undefined, incoming, {
      note: fields['note'] ?? '',
    });
    return json(z.object({ file: fileSchema, hints: z.array(z.string()) }), made, 201);
  }),
);
