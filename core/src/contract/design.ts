/** What `ovrel read` prints. */
import { z } from 'zod';

export const designJsonSchema = z.object({
  engine: z.string(),
  file: z.string(),
  bytes: z.number().int(),
  format: z.string(),
  origin: z.object({
    program: z.string().optional(),
    formatVersion: z.string().optional(),
    units: z.string().optional(),
  }),
  pages: z.array(
    z.object({ name: z.string(), box: z.array(z.number()).length(4), unitMillimetres: z.number().optional() }),
  ),
  counts: z.object({
    parts: z.number().int(),
    definitions: z.number().int(),
    byKind: z.record(z.string(), z.number().int()),
    byCategory: z.record(z.string(), z.number().int()),
  }),
  definitions: z.array(
    z.object({ key: z.string(), kind: z.string(), name: z.string(), fingerprint: z.string(), parts: z.number().int() }),
  ),
  parts: z.array(
    z.object({
      key: z.string().nullable(),
      kind: z.string(),
      name: z.string(),
      category: z.string(),
      page: z.string(),
      parents: z.array(z.string()),
      box: z.array(z.number()).length(4).nullable(),
      text: z.string().optional(),
      definition: z.string().optional(),
      props: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
      span: z.array(z.number().int()).length(2).describe('Byte offsets in the file: start, end'),
    }),
  ),
  notes: z.array(z.string()),
});

export type DesignJson = z.infer<typeof designJsonSchema>;
