import { z } from 'zod';
import { plannedSchema, setResultSchema, setSchema, setsQuerySchema } from '../../../../../../contract/desk.ts';
import { checked, json, query, route } from '../../../../../../server/http/handler.ts';
import { withUploads } from '../../../../../../server/http/multipart.ts';
import { Problem } from '../../../../../../server/problem.ts';
import { listSets } from '../../../../../../server/sets/sets.ts';
import { checkInSet } from '../../../../../../server/versions/checkin.ts';

export const GET = route(async (by, { params, url }) =>
  json(z.array(setSchema), await listSets(by, params['projectId'] ?? '', query(url, setsQuerySchema))),
);

export const POST = route(async (by, { request, params }) =>
  withUploads(request, async (fields, files) => {
    const plan = checked(z.array(plannedSchema).min(1).max(2000), parsed(fields['plan']));
    const result = await checkInSet(by, params['projectId'] ?? '', plan, files, fields['note'] ?? '');
    return json(setResultSchema, result, result.set ? 201 : 200);
  }),
);

function parsed(text: string | undefined): unknown {
  try {
    return JSON.parse(text ?? '');
  } catch {
    throw new Problem(
      400,
      'bad-input',
      'The form needs a field “plan”, before the files: a list in JSON with an entry for each file.',
    );
  }
}
