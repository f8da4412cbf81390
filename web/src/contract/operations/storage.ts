/** What is kept, and the work in the background. */
import * as schemas from '../storage.ts';
import type { Operations } from '../operation.ts';

export const storage = {
  get: { method: 'get', path: '/storage', summary: 'What is kept and what it takes', answer: schemas.storageSchema },
  jobs: {
    method: 'get',
    path: '/jobs',
    summary: 'Background work: running, waiting and lately ended',
    answer: schemas.jobsSchema,
  },
  startJob: {
    method: 'post',
    path: '/jobs',
    summary: 'Start a tally, a scrub or a collection (leads and administrators)',
    body: schemas.startJobSchema,
    answer: schemas.jobSchema,
    status: 201,
    who: 'person',
  },
  job: { method: 'get', path: '/jobs/{jobId}', summary: 'One job', answer: schemas.jobSchema },
  cancelJob: {
    method: 'delete',
    path: '/jobs/{jobId}',
    summary: 'Cancel a job; what it did so far stays',
    answer: schemas.jobSchema,
    who: 'person',
  },
} as const satisfies Operations;
