import { z } from 'zod';
import { askKnownSchema, knownSchema } from '../../../../../../contract/desk.ts';
import { asking, body, json } from '../../../../../../server/http/handler.ts';
import { knownVersions } from '../../../../../../server/references/resembling.ts';

export const POST = asking(async (by, { request, params }) =>
  json(
    z.array(knownSchema),
    await knownVersions(by, params['projectId'] ?? '', (await body(request, askKnownSchema)).files),
  ),
);
