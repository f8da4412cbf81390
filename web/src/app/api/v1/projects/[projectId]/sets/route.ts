import { plannedSchema } from '../../../../../../contract/desk.ts';
import { checked } from '../../../../../../server/http/handler.ts';
import { sets } from '../../../../../../contract/operations/sets.ts';
import { answered, serve, serveUploads } from '../../../../../../server/http/serve.ts';
import { Problem } from '../../../../../../server/problem.ts';
import { listSets } from '../../../../../../server/sets/sets.ts';
import { checkInSet } from '../../../../../../server/versions/checkin.ts';

export const GET = serve(sets.list, (by, { projectId, query }) => listSets(by, projectId, query));

export const POST = serveUploads(sets.checkIn, async (by, { projectId }, { plan, note = '', key }, files) => {
  const planned = checked(plannedSchema.array().min(1).max(2000), parsed(plan));
  const result = await checkInSet(by, projectId, planned, files, { note, key });
  return answered(sets.checkIn, result, { status: result.set ? 201 : 200 });
});

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
