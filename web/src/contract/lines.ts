/** Lines of a file, and files made from a version of another. */
import { z } from 'zod';
import { versionSchema } from './api.ts';

const id = z.uuid();
const reason = z.string().trim().max(3900).default('').describe('Why: it becomes the note of the first version');

const lineName = z
  .string()
  .trim()
  .min(1, 'A line needs a name.')
  .max(80, 'The name of a line can have at most 80 characters.');

export const startLineSchema = z.object({ name: lineName, reason });
export const branchFileSchema = z.object({
  name: z.string().trim().min(1, 'A file needs a name.').max(255),
  projectId: id.optional().describe('That of the version where it is left out'),
  folderId: id.nullable().optional().describe('That of the version where it is left out, with the project'),
  reason,
  history: z
    .boolean()
    .default(false)
    .describe('With the versions of its line up to it, each with who made it and when'),
});
export const changeLineSchema = z
  .object({ name: lineName, closed: z.boolean().describe('Kept, without new versions') })
  .partial();

export const lineSchema = z.object({
  id,
  fileId: id,
  name: z.string(),
  position: z.number().int().describe('0 for the main line'),
  closed: z.boolean(),
});
export const branchedFileSchema = z.object({ fileId: id, version: versionSchema });

const relative = z.object({
  fileId: id,
  file: z.string(),
  versionId: id,
  number: z.number().int().describe('Of the version that was branched off'),
  newestId: id.describe('The newest version of that file'),
});
export const lineageSchema = z.object({
  from: relative.nullable().describe('What the file was made from'),
  made: z.array(relative).describe('Files that were made from it'),
});
