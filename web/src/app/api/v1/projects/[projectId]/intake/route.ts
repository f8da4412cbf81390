import { plannedIntakeSchema } from '../../../../../../contract/intake.ts';
import { intake } from '../../../../../../contract/operations/intake.ts';
import { checked } from '../../../../../../server/http/handler.ts';
import { serveUploads } from '../../../../../../server/http/serve.ts';
import { takeIn } from '../../../../../../server/intake/service.ts';
import { parsedPlan } from '../../../../../../server/versions/plan.ts';

export const POST = serveUploads(intake.takeIn, (by, { projectId }, { plan, note = '', key }, files) =>
  takeIn(by, projectId, checked(plannedIntakeSchema, parsedPlan(plan)), files, { note, key }),
);
