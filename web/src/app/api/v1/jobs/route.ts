import { jobSchema, jobsSchema, startJobSchema } from '../../../../contract/storage.ts';
import { body, json, route } from '../../../../server/http/handler.ts';
import { listJobs, startJob } from '../../../../server/storage/service.ts';

export const GET = route(async (by) => json(jobsSchema, await listJobs(by)));

export const POST = route(async (by, { request }) =>
  json(jobSchema, await startJob(by, (await body(request, startJobSchema)).kind), 201),
);
