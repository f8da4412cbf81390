import { z } from 'zod';
import { checkInResultSchema, versionSchema, versionsQuerySchema } from '../../../../../../contract/api.ts';
import { checkId, json, query, route } from '../../../../../../server/http/handler.ts';
import { withUpload } from '../../../../../../server/http/multipart.ts';
import { checkIn } from '../../../../../../server/versions/checkin.ts';
import { listVersions } from '../../../../../../server/versions/service.ts';

export const GET = route(async (by, { params, url }) =>
  json(z.array(versionSchema), await listVersions(by, params['fileId'] ?? '', query(url, versionsQuerySchema))),
);

export const POST = route(async (by, { request, params }) =>
  withUpload(request, async (fields, incoming) => {
    const base = fields['base'] || undefined;
    if (base) checkId('versionId', base);
    const result = await checkIn(by, params['fileId'] ?? '', incoming, {
      note: fields['note'] ?? '',
      base,
      allowOtherFormat: fields['allowOtherFormat'] === 'yes',
      keep: fields['keep'] === 'yes',
      branch: fields['branch'] === 'yes',
    });
    return json(checkInResultSchema, result, result.made ? 201 : 200);
  }),
);
