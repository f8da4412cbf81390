import { storage } from '../../../../../contract/operations/storage.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { cancelJob, getJob } from '../../../../../server/storage/service.ts';

export const GET = serve(storage.job, (by, { jobId }) => getJob(by, jobId));

export const DELETE = serve(storage.cancelJob, (by, { jobId }) => cancelJob(by, jobId));
