/** Watched folders: folders on the server that are looked at at intervals. */
import { z } from 'zod';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');

export const watchedProblemSchema = z.enum(['gone', 'too-many', 'not-allowed', 'outside']);

export const watchedSchema = z.object({
  id,
  path: z.string().describe('Beneath the folder that the installation allows'),
  project: z.object({ id, name: z.string() }),
  folder: z.object({ id, name: z.string() }).nullable(),
  everyMinutes: z.number().int(),
  by: z.object({ id, name: z.string() }).describe('In whose name versions are made'),
  lookedAt: moment.nullable(),
  problem: watchedProblemSchema.nullable().describe('Why the last look saw nothing'),
  problems: z.array(z.object({ path: z.string(), why: z.string() })).describe('Files that could not be taken'),
  files: z.number().int().describe('Files that were taken'),
});

export const watchedListSchema = z.object({
  root: z.string().nullable().describe('Where watched folders lie; null: the installation allows none'),
  folders: z.array(watchedSchema),
});

export const newWatchedSchema = z.object({
  path: z.string().trim().min(1, 'Say which folder.').max(500),
  projectId: id,
  folderId: id.optional(),
  everyMinutes: z
    .number()
    .int()
    .min(1, 'A folder is looked at once a minute at most.')
    .max(10_080, 'A folder is looked at once a week at least.')
    .default(60),
});

export const lookedSchema = z.object({
  versions: z.number().int(),
  files: z.number().int().describe('That were new'),
  waiting: z.number().int().describe('That are still being written'),
  problem: watchedProblemSchema.nullable(),
});

export type Watched = z.infer<typeof watchedSchema>;
export type WatchedList = z.infer<typeof watchedListSchema>;
export type WatchedProblem = z.infer<typeof watchedProblemSchema>;
export type Looked = z.infer<typeof lookedSchema>;
