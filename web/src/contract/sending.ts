/** Large contents travel in parts, so that a broken connection costs one part and not all of it. */
import { z } from 'zod';

/** Of one part, in bytes. */
export const LARGEST_PART = 16 * 1024 * 1024;

/** The type of a file in a form that was sent in parts before: its bytes are `sentBeforeSchema` as JSON. */
export const SENT_BEFORE = 'application/vnd.ovrel.sent+json';

export const newUploadSchema = z
  .object({
    size: z.number().int().nonnegative().describe('Of all of it, in bytes'),
    fileId: z.uuid().optional().describe('The file that it is to be a version of'),
    projectId: z.uuid().optional().describe('For a new file: where it is to stand'),
    folderId: z.uuid().nullable().default(null),
  })
  .refine(({ fileId, projectId }) => fileId !== undefined || projectId !== undefined, {
    message: 'Say the file, or the project of a new one.',
  });

export const uploadSchema = z.object({
  id: z.uuid(),
  size: z.number(),
  received: z.number().describe('Bytes that are here; the next part begins there'),
});

export const partFormSchema = z.object({
  at: z.coerce.number().int().nonnegative().describe('Where in the content the part begins'),
});

export const sentBeforeSchema = z.object({
  upload: z.uuid(),
  deltaOf: z.uuid().optional().describe('What was sent is a delta of this version, gzipped'),
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/, 'A SHA-256 has 64 hexadecimal digits.')
    .optional()
    .describe('Of the whole file; needed with a delta'),
});

export type Upload = z.infer<typeof uploadSchema>;
export type NewUpload = z.output<typeof newUploadSchema>;
