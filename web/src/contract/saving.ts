/** Work that is saved as it goes: without a note, by programs, desks and the practice editor. */
import { z } from 'zod';
import { attemptKey, versionSchema } from './api.ts';

/** For senders that know another version: only what is new beside it travels. */
export const deltaFields = {
  deltaOf: z
    .uuid()
    .optional()
    .describe('The file that is sent is a delta of this version (see its signature), gzipped; plain where left out'),
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/, 'A SHA-256 has 64 hexadecimal digits.')
    .optional()
    .describe('Of the whole file; needed with a delta'),
};

export const saveFormSchema = z.object({
  ...deltaFields,
  key: attemptKey,
  base: z.uuid().optional().describe('The version that it was made of; the newest where it is left out'),
  kind: z.enum(['autosave', 'backup']).default('autosave').describe('A backup is made at an interval'),
  title: z.string().trim().min(1).max(200).optional().describe('With a title it is a keeper'),
});

export const savedSchema = z.object({
  made: z.boolean().describe('False where the content is that of the version before'),
  aside: z.boolean().describe('It stands on a line of its own, beside the main line'),
  version: versionSchema,
  sentence: z.string(),
});

export const leaveSchema = z.object({ note: z.string().trim().max(3900).default('') });

export type Saved = z.infer<typeof savedSchema>;
