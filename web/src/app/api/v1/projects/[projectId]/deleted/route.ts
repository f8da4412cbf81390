import { z } from 'zod';
import { deletedSchema } from '../../../../../../contract/desk.ts';
import { json, route } from '../../../../../../server/http/handler.ts';
import { listDeleted } from '../../../../../../server/sets/deleting.ts';

export const GET = route(async (by, { params }) =>
  json(z.array(deletedSchema), await listDeleted(by, params['projectId'] ?? '')),
);
