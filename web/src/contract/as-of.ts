/** A project or folder as it was at a moment, and what came since. */
import { z } from 'zod';

const id = z.uuid();
const at = z.iso.datetime({
  offset: true,
  error: 'Give the moment as a date and time, such as 2026-10-20T12:00:00Z.',
});
const version = z.object({
  id,
  number: z.number().int(),
  by: z.string(),
  at: z.string(),
  note: z.string(),
  format: z.string().nullable(),
});

export const asOfQuerySchema = z.object({ at, folder: id.optional() });
export const asOfSchema = z.object({
  at: z.string(),
  files: z
    .array(
      z.object({
        fileId: id,
        name: z.string(),
        path: z.string().describe('Folders from the top, with slashes; empty at the top'),
        then: version.nullable().describe('The version that was newest; null for files that came later'),
        now: version,
        same: z.boolean().describe('The newest has the content that it had then'),
        deleted: z.boolean().describe('Deleted since'),
        holder: z.string().nullable().describe('Who has it checked out'),
        heldByOther: z.boolean().describe('Somebody else than who asks has it checked out'),
      }),
    )
    .describe('What was there then or is there now, by path and name'),
});
export const daysSchema = z.array(
  z.object({ day: z.string().describe('UTC, as 2026-10-20'), versions: z.number().int() }),
);
export const bringForwardToSchema = z.object({
  at,
  folder: id.optional(),
  files: z.array(id).max(5000).optional().describe('Only these; all that changed since where it is left out'),
  deleteLater: z.boolean().default(false).describe('Files that came later are deleted in the same set'),
  note: z.string().trim().max(3900).default(''),
});
export const branchProjectSchema = z.object({
  at,
  folder: id.optional().describe('Only what is in this folder'),
  name: z.string().describe('Of the new project'),
  reason: z.string().trim().max(3900).default(''),
});
export const branchedProjectSchema = z.object({ projectId: id, files: z.number().int(), sentence: z.string() });
export const broughtForwardSchema = z.object({ set: z.number().int(), files: z.number().int(), sentence: z.string() });
export const titleStateSchema = z.object({
  folder: id.optional().describe('Only what is in this folder, with all below it'),
  title: z.string().trim().min(1, 'A title needs a word.').max(120, 'A title can have at most 120 characters.'),
  description: z.string().trim().max(3900).default(''),
});
export const titledStateSchema = z.object({
  titled: z.number().int(),
  files: z.number().int().describe('That one may work on there'),
  sentence: z.string(),
});
export type AsOf = z.infer<typeof asOfSchema>;
