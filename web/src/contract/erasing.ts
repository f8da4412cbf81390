/** Erasing back to a version: what goes, told beforehand, and what is asked for it. */
import { z } from 'zod';

const id = z.uuid();
const byline = z.object({ id, name: z.string() });

export const erasePreviewSchema = z.object({
  fileId: id,
  file: z.string(),
  to: z.object({ id, number: z.number().int() }).describe('The version that is the newest afterwards'),
  versions: z
    .array(z.object({ id, number: z.number().int(), by: byline, at: z.string(), note: z.string() }))
    .describe('What goes for good, oldest first'),
  people: z.array(z.object({ name: z.string(), versions: z.number().int() })),
  comments: z.number().int().describe('Comments that stand on what goes, with their answers'),
  bytes: z.number().int().describe('Of contents that nothing needs any more afterwards, before they are packed'),
  referring: z
    .array(z.object({ fileId: id, file: z.string(), number: z.number().int() }))
    .describe('Versions of other files that were saved with one that goes'),
  together: z
    .array(z.object({ fileId: id, file: z.string(), versionId: id, number: z.number().int() }))
    .describe('Files that were checked in together with what goes, and where one would go back to in each'),
  blocked: z.array(z.string()).describe('Why it cannot be done, and what would free it'),
});
export const eraseSchema = z.object({
  reason: z.string().trim().min(1, 'Say why these versions go for good.').max(2000),
  name: z.string().describe('Of the file, typed to confirm'),
  useInstead: z
    .boolean()
    .default(false)
    .describe('What refers to versions that go refers to the one that stays from now on'),
});
export const erasedSchema = z.object({
  versions: z.number().int(),
  sentence: z.string(),
  newest: z.object({ id, number: z.number().int(), lineId: id }),
});
