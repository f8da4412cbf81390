/** The interface of /api/v1: what goes in and what comes out. Types are derived, never written twice. */
import { flatFormats } from '@ovrel/core/contract';
import { z } from 'zod';
import { comparisonSchema, changeOutlinesSchema } from '@ovrel/core';
import { lookSchema } from './look.ts';
import { countingNumber, LARGEST_NUMBER } from './number.ts';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');

export const roles = ['administrator', 'lead', 'editor', 'reader', 'guest'] as const;
export const personSchema = z.object({ id, name: z.string(), email: z.string(), role: z.enum(roles) });
const byline = z.object({ id, name: z.string() });

const password = z
  .string()
  .min(10, 'A password needs at least ten characters.')
  .max(200, 'A password can have at most 200 characters.');
const email = z.string().trim().toLowerCase().pipe(z.email('This is not an e-mail address.')).describe('Sign-in name');
const personName = z
  .string()
  .trim()
  .min(1, 'A person needs a name.')
  .max(100, 'A name can have at most 100 characters.');

/** By this a check-in is known when it is sent again. */
export const attemptKey = z
  .uuid()
  .optional()
  .describe('Of this check-in alone: sent again with it, because the answer was lost, it gets its first answer');

export const signInSchema = z.object({
  email: z.string().max(200),
  password: z.string().max(200),
  code: z.string().max(40).optional().describe('Of the authenticator app, or a recovery code, where one is asked for'),
});
export const newPersonSchema = z.object({ name: personName, email, password, role: z.enum(roles) });
export const firstAdministratorSchema = newPersonSchema.omit({ role: true });

/** Bounds are those of the table. */
const sittingPause = z.number().int().min(1).max(1440).describe('Minutes without a save that end a sitting');

export const projectSchema = z.object({
  id,
  name: z.string(),
  createdAt: moment,
  createdBy: byline,
  files: z.number().int(),
  changedAt: moment.nullable(),
  sittingPause,
});
export const folderSchema = z.object({ id, projectId: id, parentId: id.nullable(), name: z.string() });

/** What a version has from another one than it follows. */
export const sourceRoles = [
  'brought forward from',
  'joined from',
  'carried over from',
  'taken back to',
  'branched off from',
] as const;
export type SourceRole = (typeof sourceRoles)[number];

export const versionSchema = z.object({
  id,
  fileId: id,
  number: z.number().int(),
  line: z.string(),
  lineId: id,
  kind: z.enum(['check-in', 'autosave', 'backup']),
  title: z.string().nullable().describe('Present on keepers'),
  description: z.string().describe('What its title stands for; empty where nothing is said'),
  starting: z.boolean().describe('A starting state: its file is brought back to it again and again'),
  note: z.string(),
  by: byline,
  at: moment,
  size: z.number().int(),
  sha256: z.string(),
  format: z.string().nullable(),
  uploadName: z.string(),
  source: z
    .number()
    .int()
    .nullable()
    .describe('Number of the version that more of it comes from, maybe of another file'),
  sourceId: id.nullable(),
  sourceRole: z.enum(sourceRoles).nullable().describe('What was done with that version'),
  sourceFile: z
    .object({ id, name: z.string() })
    .nullable()
    .describe('The file of that version, where it is another one'),
  parentId: id.nullable().describe('The version that it follows'),
  set: z.number().int().describe('Number of the check-in set that it came in'),
  summary: z
    .string()
    .nullable()
    .describe('What changed against the version before; null until computed or for the first'),
});

/** Numbers of the window of a list of versions. */
export const versionsQuerySchema = z.object({
  from: countingNumber.optional().describe('First number; without it the newest 200, or the 200 up to `to`'),
  to: countingNumber.optional().describe('Last number; at most 1000 versions in one answer'),
  line: z
    .union([id, z.coerce.number().int().min(0).max(LARGEST_NUMBER)])
    .optional()
    .describe('The line, by its id; a position is understood, too: 0 is the main line'),
});
export const lineQuerySchema = versionsQuerySchema.pick({ line: true });

/** What the rail shows of every version, as columns: short, because a file may have very many versions. */
export const railSchema = z.object({
  line: id.describe('The line that it is of'),
  ids: z.array(id),
  numbers: z.array(z.number().int()).describe('What people call them; they rise, and may have gaps'),
  at: z.array(z.number()).describe('Moments, in seconds since 1970'),
  kinds: z.string().describe('A letter a version: c check-in, a autosave, b backup'),
  sittingPause,
  by: z.array(z.number().int()).describe('Who made it: a place in `people`'),
  people: z.array(byline),
  lines: z
    .array(
      z.object({
        id,
        position: z.number().int(),
        name: z.string(),
        from: z
          .object({ id, number: z.number().int() })
          .nullable()
          .describe('The version that the branch goes on from'),
        closed: z.boolean(),
      }),
    )
    .describe('All lines of the file; the first is the main line'),
  lanes: z
    .array(
      z.object({
        line: id,
        ids: z.array(id),
        numbers: z.array(z.number().int()),
        at: z.array(z.number()),
        kinds: z.string(),
        by: z.array(z.number().int()),
      }),
    )
    .describe('The other lines of the file, each in the same columns'),
  titles: z.array(z.tuple([id, z.string()])).describe('Title of each keeper'),
  sources: z.array(z.tuple([id, id])).describe('A version, and the one that it brought forward or goes on from'),
});

export const fileSchema = z.object({
  id,
  projectId: id,
  projectName: z.string(),
  folderId: id.nullable(),
  path: z.array(z.object({ id, name: z.string() })).describe('Folders from the top'),
  name: z.string(),
  createdAt: moment,
  createdBy: byline,
  versions: z.number().int(),
  newest: versionSchema,
  deletedIn: id.nullable().describe('The set that deleted it'),
  holder: z.string().nullable().describe('Who has it checked out'),
});

export const contentsSchema = z.object({
  noteRule: z.boolean().nullable().describe('What this folder or project itself says of notes'),
  noteRequired: z.boolean().describe('A check-in here needs a note'),
  savesRule: z
    .boolean()
    .nullable()
    .describe('What this folder or project itself says of saves: that they count at once'),
  project: projectSchema,
  path: z.array(z.object({ id, name: z.string() })),
  folder: folderSchema.nullable(),
  folders: z.array(folderSchema.extend({ files: z.number().int() })),
  files: z.array(fileSchema.omit({ path: true, projectName: true })),
});

export const nameSchema = z.object({ name: z.string() });
export const changeProjectSchema = z
  .object({
    name: z.string(),
    noteRequired: z.boolean().describe('Every check-in needs a note'),
    savesCount: z.boolean().describe('Saves count at once; else people work by check-outs'),
    sittingPause,
  })
  .partial();
export const newFolderSchema = z.object({ name: z.string(), parentId: id.nullable().default(null) });
const savesCount = z
  .boolean()
  .nullable()
  .describe('Saves count at once; else people work by check-outs; null: as above');

export const changeFolderSchema = z
  .object({
    name: z.string(),
    parentId: id.nullable(),
    noteRequired: z.boolean().nullable().describe('Every check-in needs a note; null: as above'),
    savesCount,
  })
  .partial();
export const changeFileSchema = z
  .object({ name: z.string(), folderId: id.nullable(), projectId: id, savesCount })
  .partial();

export const checkInResultSchema = z.object({
  made: z.boolean().describe('false where the content is the same as the newest version'),
  version: versionSchema,
  sentence: z.string(),
  hints: z.array(z.string()),
});

/** A point in page coordinates, and how far from it a part may be drawn. */
export const partQuerySchema = z.object({
  page: z.string().max(500).default(''),
  x: z.coerce.number(),
  y: z.coerce.number(),
  reach: z.coerce.number().min(0),
});
export const partAnswerSchema = z.object({
  part: z
    .object({
      index: z.number().int().describe('Position among the parts'),
      page: z.string(),
      kind: z.string(),
      name: z.string(),
      category: z.string(),
      box: z.array(z.number()).length(4).nullable(),
    })
    .nullable(),
});

export const bringForwardSchema = z.object({ note: z.string().max(4000).default('') });
export const titleSchema = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'A title needs a word. To take it away, send none.')
    .max(120, 'A title can have at most 120 characters.')
    .nullable()
    .describe('Makes the version a keeper; null makes it one like the others'),
  description: z
    .string()
    .trim()
    .max(3900, 'A description has at most 3,900 letters.')
    .default('')
    .describe('What the title stands for; goes with it'),
  starting: z.boolean().default(false).describe('A starting state; needs a title'),
});
export const setAsideSchema = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'What is set aside needs a name.')
    .max(255)
    .describe('Of the file that it becomes; {date}, {time} and {number} are filled in'),
  reason: z.string().trim().max(3900).default(''),
});
export const setAsideAnswerSchema = z.object({
  aside: z.object({ fileId: id, name: z.string(), versionId: id }),
  newest: versionSchema,
  sentence: z.string(),
});
/** Which page of a drawing, from 0: the model, then its layouts. */
export const flatQuerySchema = z.object({
  view: z.coerce.number().int().nonnegative().default(0).describe('Number of a plan or a side'),
  cut: z.coerce
    .number()
    .min(-1e9)
    .max(1e9)
    .optional()
    .describe('Height of a plan, in the unit of the model; instead of a number'),
  format: z.enum(flatFormats).default(flatFormats[0]),
});

export const pageQuerySchema = z.object({ page: z.coerce.number().int().min(0).max(10_000).default(0) });

const four = z
  .string()
  .regex(/^-?[\d.]+(e[-+]?\d+)?(,-?[\d.]+(e[-+]?\d+)?){3}$/, 'Give the area as four numbers: left,top,right,bottom.')
  .transform((text) => text.split(',').map(Number) as [number, number, number, number])
  .refine(([x0, y0, x1, y1]) => x1 > x0 && y1 > y0, 'The area needs a width and a height.');
export const viewQuerySchema = pageQuerySchema.extend({
  box: four
    .optional()
    .describe(
      'Only this area, in page coordinates: left,top,right,bottom; for drawings that Ovrel draws from their parts, and for PDF documents',
    ),
  side: z.coerce
    .number()
    .int()
    .min(64)
    .max(3000)
    .optional()
    .describe('Longer side of that area in pixels; for PDF documents'),
  layer: z.coerce
    .number()
    .int()
    .min(0)
    .max(10_000)
    .optional()
    .describe('Only this layer of a picture, by its position from the top'),
  drawn: z.literal('yes').optional().describe('The page as it is compared with one of another kind'),
  as: z
    // eslint-disable-next-line no-restricted-syntax -- the name that people ask for it by
    .enum(['ora', 'document'])
    .optional()
    .describe('To be saved: a layered picture as OpenRaster, or anything that can be drawn as a PDF document'),
  download: z.literal('yes').optional().describe('Answer as a file to be saved'),
});
const again = {
  again: z.literal('yes').optional().describe('Try once more what took too long, whenever that was'),
};
export const againQuerySchema = z.object(again);
/**
 * The nearest of 1, 2 and 5 with as many zeros as it takes: every tolerance is a comparison of its own that is kept.
 */
export function toleranceStep(wanted: number): number {
  const power = Math.floor(Math.log10(wanted));
  const steps = [power, power + 1].flatMap((p) => [1, 2, 5].map((digit) => Number(`${digit}e${p}`)));
  const distance = (step: number): number => Math.abs(Math.log(step / wanted));
  return steps.reduce((best, step) => (distance(step) < distance(best) ? step : best));
}

export const compareQuerySchema = z.object({
  a: id,
  b: id,
  tolerance: z.coerce
    .number()
    .positive()
    .min(1e-9)
    .max(1e9)
    .transform(toleranceStep)
    .optional()
    .describe(
      'Distance in design units within which places count as the same, taken to the nearest of 1, 2, 5, 10, 20 …; chosen from the drawings by default',
    ),
  ...again,
});
export const pairQuerySchema = compareQuerySchema.pick({ a: true, b: true });
export const comparisonResponseSchema = z.object({ comparison: comparisonSchema, picture: changeOutlinesSchema });
export const pageListSchema = z.object({
  pages: z.array(
    z.object({
      name: z.string(),
      state: z.enum(['same', 'changed', 'added', 'removed']),
      was: z.number().int().nullable().describe('Position in A, from 0'),
    }),
  ),
});
const pagesSoFarSchema = z.object({
  read: z.number().int().describe('Pages that were read, of both documents'),
  all: z.number().int(),
  pages: z.array(z.object({ name: z.string(), state: z.enum(['same', 'changed', 'unread']) })),
});
/** A line of the page list while it is being made; the last one is the list itself. */
export const pagesReportSchema = z.union([pagesSoFarSchema, pageListSchema]);
export type PagesReport = z.infer<typeof pagesReportSchema>;
const documentPassword = z
  .string()
  .min(1, 'Give the password of the document.')
  .max(512)
  .describe('Used for this answer, and not kept');
export const unlockSchema = z.object({ password: documentPassword });
export const unlockViewSchema = unlockSchema.extend({ page: z.number().int().min(0).max(10_000) });
export const unlockComparisonSchema = z.object({
  a: id,
  b: id,
  passwordA: documentPassword.optional(),
  passwordB: documentPassword.optional(),
});
export const whoSchema = z.object({
  versions: z
    .array(z.object({ number: z.number().int(), by: byline }))
    .describe('What was made on the way from A to B, oldest first'),
  touched: z
    .record(z.string(), z.array(z.number().int()))
    .describe(
      'By the id of a change: which of `versions` touched its part, as positions; an empty list where its part was lost on the way',
    ),
  sentence: z.string().nullable().describe('Why nothing can be said, where that is so'),
});
export const versionDetailSchema = versionSchema.extend({ look: lookSchema });
export const findQuerySchema = z.object({ q: z.string().trim().min(1).max(200) });
export const foundSchema = z.array(
  z.object({ id, name: z.string(), project: z.string(), number: z.number().int(), at: moment }),
);
export const archiveQuerySchema = z.object({
  at: z.iso
    .datetime({ offset: true, error: 'Give the moment as a date and time, such as 2026-10-20T12:00:00Z.' })
    .optional()
    .describe('The versions that were newest at this moment'),
  folder: id.optional(),
});
export const sessionSchema = z.object({ person: personSchema });
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
});

export type Role = (typeof roles)[number];
export type Person = z.infer<typeof personSchema>;
export type Project = z.infer<typeof projectSchema>;
export type Folder = z.infer<typeof folderSchema>;
export type FileEntry = z.infer<typeof fileSchema>;
export type Contents = z.infer<typeof contentsSchema>;
export type Version = z.infer<typeof versionSchema>;
export type RailColumns = z.infer<typeof railSchema>;
export type VersionDetail = z.infer<typeof versionDetailSchema>;
export type CheckInResult = z.infer<typeof checkInResultSchema>;
export type ComparisonResponse = z.infer<typeof comparisonResponseSchema>;
export type Who = z.infer<typeof whoSchema>;
export type FoundFiles = z.infer<typeof foundSchema>;
