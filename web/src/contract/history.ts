/** The history of one file: its versions, and what else was done with it, in one list. */
import { z } from 'zod';
import { versionSchema } from './api.ts';
import { ledgerEntrySchema } from './desk.ts';
import { versionFilterSchema } from './version-filter.ts';

export const historyQuerySchema = versionFilterSchema.extend({
  before: z.iso.datetime({ offset: true }).optional().describe('What came before this moment'),
});
export const fileHistorySchema = z.object({
  steps: z.array(
    z.object({
      at: z.string(),
      version: versionSchema.nullable(),
      entry: ledgerEntrySchema
        .omit({ hash: true, from: true })
        .nullable()
        .describe('An act that made no version: a check-out, a request, a new name …'),
    }),
  ),
  more: z.boolean(),
  filteredOut: z.number().int().describe('Versions that the filter leaves out'),
});
export type FileHistory = z.infer<typeof fileHistorySchema>;
