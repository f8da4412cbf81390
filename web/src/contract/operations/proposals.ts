/** What is about to be done: made, looked at, decided, landed or let go. */
import { z } from 'zod';
import { versionSchema } from '../api.ts';
import type { Operations } from '../operation.ts';
import * as shape from '../proposals.ts';

export const proposals = {
  open: {
    method: 'get',
    path: '/files/{fileId}/proposals',
    summary: 'What you are about to do to the file, or nothing',
    answer: shape.openProposalSchema,
  },
  make: {
    method: 'post',
    path: '/files/{fileId}/proposals',
    summary:
      'Take changes back, carry parts over, or join a line or another file: shown first, and nothing lands yet. It takes the place of what you were about to do to the file',
    body: shape.newProposalSchema,
    answer: shape.proposalSchema,
    status: 201,
  },
  get: {
    method: 'get',
    path: '/proposals/{proposalId}',
    summary: 'What you are about to do, with its clashes',
    answer: shape.proposalSchema,
  },
  decide: {
    method: 'patch',
    path: '/proposals/{proposalId}',
    summary: 'Decide clashes; those that are not named stay as they were decided',
    body: shape.decisionsSchema,
    answer: shape.proposalSchema,
  },
  byHand: {
    method: 'post',
    path: '/proposals/{proposalId}/content',
    summary:
      'Put what it would be, changed in your own program, in its place: every clash is decided then. Other decisions make it anew',
    form: z.object({}),
    answer: shape.proposalSchema,
  },
  land: {
    method: 'post',
    path: '/proposals/{proposalId}/land',
    summary: 'Check it in. Where a newer version landed meanwhile it is made anew on that one first',
    body: shape.landSchema,
    answer: versionSchema,
    status: 201,
  },
  discard: {
    method: 'delete',
    path: '/proposals/{proposalId}',
    summary: 'Let it go; nothing was changed',
  },
} as const satisfies Operations;
