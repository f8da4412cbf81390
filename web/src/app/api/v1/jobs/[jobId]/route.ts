import { jobSchema } from '../../../../../contract/storage.ts';
import { json, route } from '../../../../../server/http/handler.ts';
import { cancelJob, getJob } from '../../../../../server/storage/service.ts';

export const GET = route(async (by, { params }) => json(jobSchema, await getJob(by, params['jobId'] ?? '')));

export const DELETE = route(async (by, { params }) => json(jobSchema, await cancelJob(by, params['jobId'] ?? '')));
