/** Storage page: figures, jobs and the scrub's report. Bytes unless said otherwise. */
import { z } from 'zod';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');
const bytes = z.number();

export const jobStates = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;

export const scrubReportSchema = z.object({
  chunks: z.number().int(),
  storedBytes: bytes,
  contents: z.number().int(),
  contentBytes: bytes,
  damagedChunks: z.number().int(),
  damagedContents: z.number().int(),
  damaged: z.array(
    z.object({ fileId: id, file: z.string(), project: z.string(), versions: z.array(z.number().int()) }),
  ),
  damagedResults: z.number().int().default(0).describe('Kept results that were thrown away, to be computed anew'),
  ledger: z
    .object({
      entries: z.number().int().describe('That hold'),
      broken: z.object({ entry: z.number().int(), why: z.string() }).nullable(),
      versions: z.number().int().describe('That are what the ledger says'),
      wrong: z.array(
        z.object({ fileId: id, file: z.string(), project: z.string(), version: z.number().int(), why: z.string() }),
      ),
    })
    .optional()
    .describe('Whether the ledger holds, and every version is what it says'),
});

export const jobSchema = z.object({
  id,
  kind: z.string(),
  title: z.string(),
  state: z.enum(jobStates),
  doing: z.string(),
  done: z.number(),
  total: z.number().nullable(),
  attempts: z.number().int(),
  problem: z.string().nullable(),
  report: z.unknown(),
  outcome: z.string().nullable().describe('What came of it, in words'),
  cancelling: z.boolean(),
  by: z.string().nullable(),
  createdAt: moment,
  startedAt: moment.nullable(),
  endedAt: moment.nullable(),
});

const share = z.object({
  kept: bytes.describe('Sum of the sizes of all versions'),
  stored: bytes.describe('What they take in the store'),
  versions: z.number().int(),
});
const saved = z.object({
  copies: bytes.describe('Versions whose content was there already'),
  shared: bytes.describe('Chunks that another content had already'),
  differences: bytes.describe('Versions stored as differences'),
  compression: bytes.describe('Compression, and containers opened'),
});

export const storageReportSchema = z.object({
  at: moment,
  total: share.extend({
    files: z.number().int(),
    contents: z.number().int(),
    chunks: z.number().int(),
    opened: z.number().int(),
    deltas: z.number().int(),
    unneeded: bytes.describe('Stored bytes that no content needs; the collector removes them after a while'),
  }),
  saved,
  overTime: z.array(z.object({ day: z.string(), kept: bytes, stored: bytes })),
  projects: z.array(share.extend({ id, name: z.string(), files: z.number().int() })),
  kinds: z.array(share.extend({ kind: z.string(), files: z.number().int() })),
  files: z.array(share.extend({ id, name: z.string(), project: z.string(), kind: z.string(), saved })),
});

export const storageSchema = z.object({
  report: storageReportSchema.nullable(),
  scrub: z.object({ at: moment, report: scrubReportSchema }).nullable(),
  databaseBytes: bytes,
});
export const startJobSchema = z.object({ kind: z.string().describe('Work on the store: tally, scrub, collect …') });
export const jobsSchema = z.object({
  jobs: z.array(jobSchema),
  counts: z.record(z.enum(jobStates), z.number().int()),
  workers: z.number().int().describe('Worker processes seen within the last minute'),
});

export type ScrubReport = z.infer<typeof scrubReportSchema>;
export type Job = z.infer<typeof jobSchema>;
export type Jobs = z.infer<typeof jobsSchema>;
export type StorageReport = z.infer<typeof storageReportSchema>;
export type Storage = z.infer<typeof storageSchema>;
