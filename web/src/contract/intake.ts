/** Old copies that come in as histories. */
import { z } from 'zod';

const id = z.uuid();

/** A copy: the files of the form come in the order of all copies of the plan. */
export const plannedCopySchema = z.object({
  path: z.string().min(1).max(1000).describe('As it was called where it lay; kept in the note'),
  line: z.number().int().min(0).max(1000).describe('0 is the main line'),
  parent: z
    .number()
    .int()
    .min(0)
    .nullable()
    .describe('Position in the list of the copy that it came from, which stands before it; null for the first'),
  at: z.iso.datetime({ offset: true }).nullable().describe('When it was made; now where nobody knows'),
  person: z.string().trim().max(120).optional().describe('Who made it, as far as known; kept in the note'),
  reason: z.string().max(2000).optional(),
});

export const plannedFileSchema = z.object({
  name: z.string().describe('Of the file in the project'),
  folderId: id.nullable().default(null),
  copies: z.array(plannedCopySchema).min(1).max(2000),
});

export const plannedIntakeSchema = z.array(plannedFileSchema).min(1).max(500);

export const takenInSchema = z.object({
  set: z.number().int(),
  files: z.array(z.object({ fileId: id, name: z.string(), versions: z.number().int(), lines: z.number().int() })),
  sentence: z.string(),
});

export type PlannedFile = z.output<typeof plannedFileSchema>;
export type PlannedCopy = z.output<typeof plannedCopySchema>;
export type TakenIn = z.infer<typeof takenInSchema>;
