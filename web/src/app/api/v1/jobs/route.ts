import { storage } from '../../../../contract/operations/storage.ts';
import { serve } from '../../../../server/http/serve.ts';
import { listJobs, startJob } from '../../../../server/storage/service.ts';

export const GET = serve(storage.jobs, listJobs);

export const POST = serve(storage.startJob, (by, { body }) => startJob(by, body.kind));
