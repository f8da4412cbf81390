/** What people say about versions, changes and places of a drawing. */
import { z } from 'zod';

const id = z.uuid();
const moment = z.string();
const byline = z.object({ id, name: z.string() });

const placeSchema = z.object({
  page: z.string(),
  x: z.number(),
  y: z.number(),
  box: z.array(z.number()).length(4).nullable().describe('The part that the comment belongs to, in page coordinates'),
  part: z.number().int().nullable().describe('The position of that part in the version that is looked at'),
});

const bodySchema = z
  .string()
  .trim()
  .min(1, 'A comment needs some words.')
  .max(4000, 'A comment has at most 4,000 characters.');

export const newCommentSchema = z.object({
  version: id.describe('The version that it is about'),
  body: bodySchema.describe('People are mentioned by @ and their name'),
  at: z
    .union([
      z.object({
        page: z.string().max(400),
        x: z.number(),
        y: z.number(),
        reach: z
          .number()
          .min(0)
          .default(0)
          .describe('How far from the point a part may be to be meant, in design units'),
      }),
      z.object({ part: z.number().int().min(0).describe('A part by its position, as comparisons give it') }),
    ])
    .optional(),
});
export const replySchema = z.object({ body: bodySchema });
export const resolveSchema = z.object({ resolved: z.boolean() });
export const commentsQuerySchema = z.object({
  version: id.describe('The version that is looked at: places are those in it'),
});

export const commentSchema = z.object({
  id,
  fileId: id,
  by: byline,
  at: moment,
  body: z.string(),
  mentions: z.array(byline),
  madeOn: z.object({ id, number: z.number().int() }),
  about: z
    .object({ kind: z.string(), name: z.string(), category: z.string() })
    .nullable()
    .describe('The part that it belongs to'),
  place: placeSchema
    .nullable()
    .describe('Where it stands in the version that is looked at; null for the version as a whole'),
  lost: z.boolean().describe('True where its part is not in the version that is looked at; the place is where it was'),
  resolved: z.object({ by: byline, at: moment }).nullable(),
  replies: z.array(z.object({ id, by: byline, at: moment, body: z.string() })),
});
export const mentionSchema = z.object({
  id,
  fileId: id,
  fileName: z.string(),
  version: z.number().int(),
  versionId: id,
  by: byline,
  at: moment,
  body: z.string(),
});

export type Comment = z.infer<typeof commentSchema>;
export type NewComment = z.infer<typeof newCommentSchema>;
export type Mention = z.infer<typeof mentionSchema>;
