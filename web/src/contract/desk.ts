/** Check-outs, sets, the ledger, tokens and live events: what goes in and what comes out. */
import { z } from 'zod';
import { versionFilterSchema } from './version-filter.ts';
import { countingNumber } from './number.ts';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');
const byline = z.object({ id, name: z.string() });
const reason = z
  .string()
  .trim()
  .min(1, 'Say why: a reason is needed.')
  .max(2000, 'A reason can have at most 2,000 characters.');

const line = id.optional().describe('A line beside the main one; the main line where it is left out');

export const checkoutSchema = z.object({
  fileId: id,
  line: z.object({ id, name: z.string(), isMain: z.boolean() }).describe('What is held; others can hold other lines'),
  fileName: z.string(),
  projectId: id,
  by: byline,
  at: moment,
  desk: z.string().describe('Where the holder works on it, as they call it'),
  number: z.number().int().describe('The newest version when it was taken'),
  source: z.number().int().nullable().describe('The older version that the holder goes on from'),
  requests: z.array(z.object({ by: byline, reason: z.string(), at: moment })).describe('Who asks for it back'),
});

export const standingSchema = z.object({
  checkout: checkoutSchema.nullable().describe('Who holds the file'),
  takenOver: z
    .object({ by: byline, reason: z.string(), at: moment, number: z.number().int(), versionId: id })
    .nullable()
    .describe('Somebody took your check-out over: what you check in next becomes a branch'),
  present: z.array(byline).describe('Who looks at the file now'),
});

export const checkOutSchema = z.object({
  files: z.array(id).min(1, 'Choose at least one file.').max(2000, 'At most 2,000 files can be checked out at once.'),
  desk: z.string().trim().max(200).optional(),
  from: id
    .optional()
    .describe('An older version of the one file, to go on from: the next check-in has it as its source'),
  line,
});
export const giveUpSchema = z.object({ files: z.array(id).min(1).max(2000), line });
export const reasonSchema = z.object({ reason, line });
export const standingQuerySchema = z.object({ line });
export const heldQuerySchema = z.object({ project: id.optional(), mine: z.enum(['yes', 'no']).optional() });

const setKinds = [
  'check-in',
  'bring forward',
  'delete',
  'bring back',
  'take back',
  'carry over',
  'join',
  'saves',
] as const;
export const setSchema = z.object({
  id,
  projectId: id,
  number: z.number().int(),
  kind: z.enum(setKinds),
  note: z.string(),
  by: byline,
  at: moment,
  files: z.array(
    z.object({
      fileId: id,
      name: z.string(),
      versionId: id.nullable(),
      parentId: id.nullable().describe('The version that it follows'),
      version: z.number().int().nullable(),
      line: z.string().nullable(),
      summary: z.string().nullable(),
      first: z.boolean().describe('The file began with this set'),
      deleted: z.boolean().describe('The file is deleted now'),
    }),
  ),
});
export const setsQuerySchema = versionFilterSchema.extend({
  before: countingNumber.optional().describe('Sets with smaller numbers'),
  file: id.optional(),
});
export const setCountSchema = z.object({
  all: z.number().int(),
  filteredOut: z.number().int().describe('Sets of which the filter leaves nothing'),
});

export const deletedSchema = z.object({
  id,
  name: z.string(),
  folderId: id.nullable(),
  versions: z.number().int(),
  by: byline,
  at: moment,
  set: z.number().int(),
  reason: z.string(),
});
export const deleteSchema = z.object({ reason });
export const bringBackSchema = z.object({
  versionId: id.optional().describe('Which version is to be the newest; without it the last one'),
  name: z.string().optional().describe('Another name, where the old one is taken'),
  reason: z.string().max(2000).optional(),
});

const neighbour = z.object({
  id,
  name: z.string(),
  path: z.string(),
  newest: z.number().int(),
  newestId: id,
  deleted: z.boolean(),
  holder: z.string().nullable(),
});
const needSchema = z.object({
  target: z.string().describe('As it is written in the file; empty where a person added it'),
  kind: z.string(),
  found: z
    .enum(['path', 'name', 'missing', 'web', 'by hand', 'closed'])
    .describe('At its path; by its name alone; not at all; in the web; added by a person; or there, but closed to you'),
  file: neighbour.nullable(),
  then: z
    .object({ id, number: z.number().int() })
    .nullable()
    .describe('The version that was the newest when this one was saved'),
  says: z.string(),
});
export const referencesSchema = z.object({
  needs: z.array(needSchema),
  neededBy: z.array(z.object({ file: neighbour, target: z.string(), says: z.string(), byHand: z.boolean() })),
});
export const addReferenceSchema = z.object({
  to: id,
  says: z.string().trim().max(200).optional().describe('Such as “drawing of”'),
});
export const removeReferenceSchema = z.object({ to: id });
export const withReferencesQuerySchema = z.object({
  as: z
    .enum(['then', 'now'])
    .default('then')
    .describe('The references as they were when the version was saved, or as they are now'),
});

/** Every file of a project, for a desk to compare with. */
export const deskFileSchema = z.object({
  fileId: id,
  path: z.string(),
  newest: z.object({ id, number: z.number().int(), sha256: z.string(), size: z.number().int() }),
  holder: byline.nullable(),
});

/** Files that a desk does not know, with a sketch of each (see the core's sketchOf). */
export const askResemblingSchema = z.object({
  files: z
    .array(z.object({ path: z.string().max(4000), sketch: z.array(z.number().int().min(0).max(0xffffffff)).max(128) }))
    .max(200),
});
export const resemblingSchema = z.object({
  path: z.string(),
  fileId: id,
  likeness: z.number().describe('Share of what both hold in common, 0.3 to 1'),
});

/** Contents on a desk of which it is not known which version they were taken from. */
export const askKnownSchema = z.object({
  files: z.array(z.object({ fileId: id, sha256: z.string().regex(/^[0-9a-f]{64}$/) })).max(2000),
});
export const knownSchema = z.object({ fileId: id, versionId: id, number: z.number().int(), sha256: z.string() });

/** A file of a set: a new version of one that is there, or a new one. */
export const plannedSchema = z.object({
  fileId: id.optional(),
  base: id.optional(),
  folderId: id.nullable().optional(),
  name: z.string().max(400).optional(),
  keep: z.boolean().optional().describe('Keep it checked out'),
  allowOtherFormat: z.boolean().optional(),
});
export const setResultSchema = z.object({
  set: setSchema.nullable().describe('null where nothing had changed'),
  sentence: z.string(),
  same: z.array(z.string()).describe('Files whose content was the newest already'),
  hints: z.array(z.string()),
});

export const ledgerEntrySchema = z.object({
  seq: z.number().int(),
  at: moment,
  by: byline.nullable(),
  act: z.string(),
  subject: z.string(),
  reason: z.string(),
  from: z.string().describe('Address and program that asked'),
  projectId: id.nullable(),
  fileId: id.nullable(),
  hash: z.string().describe('SHA-256 over the hash before and this entry'),
});
export const ledgerQuerySchema = z.object({
  project: id.optional(),
  file: id.optional(),
  person: id.optional(),
  act: z.string().max(60).optional(),
  words: z.string().max(200).optional(),
  since: z.iso.datetime({ offset: true }).optional(),
  until: z.iso.datetime({ offset: true }).optional(),
  before: countingNumber.optional().describe('Entries with smaller numbers'),
  as: z.enum(['json', 'csv']).optional(),
});
export const ledgerSchema = z.object({
  entries: z.array(ledgerEntrySchema),
  more: z.boolean(),
  acts: z.array(z.string()),
  people: z.array(byline),
});

const tokenScopes = ['read', 'desk'] as const;
export const tokenSchema = z.object({
  id,
  name: z.string(),
  scope: z.enum(tokenScopes),
  madeAt: moment,
  expiresAt: moment,
  usedAt: moment.nullable(),
  expired: z.boolean(),
  revoked: z.boolean(),
});
export const newTokenSchema = z.object({
  name: z.string().trim().min(1, 'A token needs a name, so that you know it again.').max(100),
  scope: z.enum(tokenScopes).describe('read: look and download; desk: also check out and check in'),
  days: z.coerce
    .number()
    .int()
    .min(1, 'A token holds for at least a day.')
    .max(365, 'A token holds for at most a year.'),
});
export const madeTokenSchema = tokenSchema.extend({
  token: z.string().describe('Shown once; Ovrel keeps only a hash of it'),
});

export const eventsQuerySchema = z.object({ file: id.optional(), project: id.optional() });
/** What a page is told while it is open. */
export const liveEventSchema = z.object({
  kind: z.enum(['checkout', 'version', 'present', 'files', 'comment']),
  file: id.nullable(),
  project: id,
});

export type Checkout = z.infer<typeof checkoutSchema>;
export type Standing = z.infer<typeof standingSchema>;
export type CheckinSet = z.infer<typeof setSchema>;
export type SetKind = CheckinSet['kind'];
export type DeletedFile = z.infer<typeof deletedSchema>;
export type Planned = z.infer<typeof plannedSchema>;
export type SetResult = z.infer<typeof setResultSchema>;
export type LedgerEntry = z.infer<typeof ledgerEntrySchema>;
export type Ledger = z.infer<typeof ledgerSchema>;
export type References = z.infer<typeof referencesSchema>;
export type Need = z.infer<typeof needSchema>;
export type Known = z.infer<typeof knownSchema>;
export type Resembling = z.infer<typeof resemblingSchema>;
export type DeskFile = z.infer<typeof deskFileSchema>;
export type AccessToken = z.infer<typeof tokenSchema>;
export type MadeToken = z.infer<typeof madeTokenSchema>;
export type LiveEvent = z.infer<typeof liveEventSchema>;
