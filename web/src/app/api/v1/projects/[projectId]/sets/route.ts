import { plannedSchema } from '../../../../../../contract/desk.ts';
import { checked } from '../../../../../../server/http/handler.ts';
import { sets } from '../../../../../../contract/operations/sets.ts';
import { answered, serve, serveUploads } from '../../../../../../server/http/serve.ts';
import { listSets } from '../../../../../../server/sets/sets.ts';
import { parsedPlan } from '../../../../../../server/versions/plan.ts';
import { checkInSet } from '../../../../../../server/versions/checkin.ts';

export const GET = serve(sets.list, (by, { projectId, query }) => listSets(by, projectId, query));

export const POST = serveUploads(sets.checkIn, async (by, { projectId }, { plan, note = '', key }, files) => {
  const planned = checked(plannedSchema.array().min(1).max(2000), parsedPlan(plan));
  const result = await checkInSet(by, projectId, planned, files, { note, key });
  return answered(sets.checkIn, result, { status: result.set ? 201 : 200 });
});
