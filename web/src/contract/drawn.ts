/** Who drew what in a version, and what was there and is gone. */
import { z } from 'zod';

const id = z.uuid();
const byline = z.object({ id, name: z.string() });
const box = z.array(z.number()).length(4).nullable();

export const drawnByQuerySchema = z.object({
  gone: z
    .string()
    .trim()
    .max(200)
    .optional()
    .describe('Of what is gone only what is called so, or lies on such a layer'),
});
export const drawnBySchema = z.object({
  ready: z.boolean().describe('False while it is being found out in the background: ask again'),
  done: z.number().int().describe('Versions that are known'),
  total: z.number().int(),
  sentence: z.string().nullable().describe('Why nothing can be said, where that is so'),
  versions: z
    .array(z.object({ id, fileId: id, number: z.number().int(), by: byline, at: z.string(), parentId: id.nullable() }))
    .describe('Versions that stories tell of'),
  parts: z
    .array(
      z.object({
        page: z.string(),
        kind: z.string(),
        name: z.string(),
        category: z.string(),
        box,
        story: z.array(z.number().int()).describe('Positions in `versions`: who put it in, then who changed it'),
      }),
    )
    .describe('In the order of the version'),
  gone: z
    .array(
      z.object({
        part: z.number().int().describe('Position among the parts of the last version that had it'),
        last: z.number().int().describe('That version, as a position in `versions`'),
        out: z.number().int().describe('The version that took it out'),
        kind: z.string(),
        name: z.string(),
        category: z.string(),
        page: z.string(),
        box,
      }),
    )
    .describe('The latest first; at most 200'),
});
export type DrawnByAnswer = z.infer<typeof drawnBySchema>;
