import { z } from 'zod';
import { askResemblingSchema, resemblingSchema } from '../../../../../../contract/desk.ts';
import { asking, body, json } from '../../../../../../server/http/handler.ts';
import { resembling } from '../../../../../../server/references/resembling.ts';

export const POST = asking(async (by, { request, params }) =>
  json(
    z.array(resemblingSchema),
    await resembling(by, params['projectId'] ?? '', (await body(request, askResemblingSchema)).files),
  ),
);
