/** Files and their versions. */
import { z } from 'zod';
import * as api from '../api.ts';
import * as desk from '../desk.ts';
import * as film from '../film.ts';
import * as history from '../history.ts';
import { deltaFields } from '../saving.ts';
import { versionFilterSchema } from '../version-filter.ts';
import type { Operations } from '../operation.ts';

const note = z.string().max(4000).optional().describe('Why');

export const files = {
  make: {
    method: 'post',
    path: '/projects/{projectId}/files',
    summary: 'Make a file with its first version',
    form: z.object({ name: z.string().optional(), folderId: z.uuid().optional(), note, key: api.attemptKey }),
    answer: z.object({ file: api.fileSchema, hints: z.array(z.string()) }),
    status: 201,
  },
  get: { method: 'get', path: '/files/{fileId}', summary: 'One file with its newest version', answer: api.fileSchema },
  change: {
    method: 'patch',
    path: '/files/{fileId}',
    summary: 'Rename or move a file',
    body: api.changeFileSchema,
    answer: api.fileSchema,
  },
  versions: {
    method: 'get',
    path: '/files/{fileId}/versions',
    summary: 'Versions of a window of numbers, oldest first',
    query: api.versionsQuerySchema,
    answer: z.array(api.versionSchema),
  },
  history: {
    method: 'get',
    path: '/files/{fileId}/history',
    summary: 'Versions of a file and what else was done with it, the latest first',
    query: history.historyQuerySchema,
    answer: history.fileHistorySchema,
  },
  matching: {
    method: 'get',
    path: '/files/{fileId}/matching',
    summary: 'Which versions of a file, on any line, a filter lets through',
    query: versionFilterSchema,
    answer: z.object({ versions: z.array(z.uuid()) }),
  },
  film: {
    method: 'get',
    path: '/files/{fileId}/film',
    summary: 'A stretch of versions as a picture that moves, what changed lightly marked',
    query: film.filmQuerySchema,
    bytes: 'image/*',
  },
  rail: {
    method: 'get',
    path: '/files/{fileId}/rail',
    summary: 'What the rail shows of every version',
    query: api.lineQuerySchema,
    answer: api.railSchema,
  },
  checkIn: {
    method: 'post',
    path: '/files/{fileId}/versions',
    summary: 'Check in a version',
    form: z.object({
      ...deltaFields,
      note,
      key: api.attemptKey,
      base: z
        .uuid()
        .optional()
        .describe('The newest version that you have seen; with it a newer one is not overlooked'),
      allowOtherFormat: z.enum(['yes', 'no']).optional(),
      keep: z.enum(['yes', 'no']).optional().describe('Keep it checked out'),
      branch: z.enum(['yes', 'no']).optional().describe('Start a branch from `base`'),
      line: z.uuid().optional().describe('Another line than the main line'),
    }),
    answer: api.checkInResultSchema,
    status: 201,
  },
  remove: {
    method: 'delete',
    path: '/files/{fileId}',
    summary: 'Delete a file; its versions stay, and it can be brought back',
    body: desk.deleteSchema,
    status: 204,
  },
  bringBack: {
    method: 'post',
    path: '/files/{fileId}/bring-back',
    summary: 'Bring a deleted file back, at any version',
    body: desk.bringBackSchema,
    answer: api.fileSchema,
  },
} as const satisfies Operations;
