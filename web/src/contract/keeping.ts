/** Keeping rules: what is kept how long, what goes when, and what rules would have done in the past. */
import { faultInSteps, grains, holds, kindIds } from '@ovrel/core';
import { z } from 'zod';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');
/** Longest that a rule can speak of, in days: a hundred years. */
const LONGEST = 36_525;

const stepsSchema = z
  .array(
    z.object({
      one: z.enum(grains).describe('The last version of each of these stays; of `version`: all'),
      days: z
        .number()
        .int()
        .min(1, 'A step has to hold for at least a day.')
        .max(LONGEST, 'A step holds for at most a hundred years; for longer say “for ever”.')
        .nullable()
        .describe('Until versions are this old; null: for ever'),
    }),
  )
  .max(8, 'A rule has at most eight steps.')
  .superRefine((steps, context) => {
    const fault = faultInSteps(steps);
    if (fault !== undefined) context.addIssue(fault);
  })
  .readonly()
  .describe('From young to old. After the last step none stays; no step at all keeps none');

const keepingRuleSchema = z.object({ 'check-in': stepsSchema, autosave: stepsSchema, backup: stepsSchema });

export const contentKindSchema = z.enum(kindIds);

export const keepingPlaceSchema = z.object({
  folder: id.optional().describe('A folder of the project; all of it where it is left out'),
  content: contentKindSchema.optional().describe('A kind of content; all where it is left out'),
});

export const keepingSchema = z.object({
  rule: keepingRuleSchema.describe('What holds there'),
  said: z.boolean().describe('It is said there, and not only above'),
  from: z
    .object({ folder: id.nullable(), content: contentKindSchema.nullable(), by: z.string(), at: moment })
    .nullable()
    .describe('Where it is said; null: nothing is said, and all is kept'),
  mayChange: z.boolean(),
});

export const setKeepingSchema = keepingPlaceSchema.extend({
  rule: keepingRuleSchema.nullable().describe('Null: as above'),
});

const holdSchema = z.enum(holds);

const goingSchema = z.object({
  versionId: id,
  number: z.number().int(),
  line: z.string(),
  fileId: id,
  file: z.string(),
  projectId: id,
  kind: z.enum(['check-in', 'autosave', 'backup']),
  by: z.object({ id, name: z.string() }),
  at: moment.describe('When it was made'),
  goes: moment.describe('From when on a sweep removes it'),
  format: z.string().nullable(),
});

export const goingQuerySchema = z.object({
  days: z.coerce.number().int().min(0).max(LONGEST).default(7).describe('Within so many days from now'),
});
export const goingListSchema = z.object({
  versions: z.array(goingSchema).describe('The soonest first; at most 500'),
  total: z.number().int(),
  bytes: z.number().describe('What their contents take where nothing else has them'),
});

export const fateSchema = z.object({
  goes: moment.nullable().describe('Null: it stays'),
  holds: z.array(holdSchema).describe('Why it stays although its rule would let it go'),
  rule: z.string().describe('What its rule says of versions of its kind, in words'),
  mayKeep: z.boolean().describe('The person may give it a title, which keeps it'),
});

export const goingOfFileSchema = z.object({
  going: z.array(z.object({ versionId: id, goes: moment })).describe('Versions that go, and from when on'),
});

export const trialAskedSchema = keepingPlaceSchema.extend({ rule: keepingRuleSchema });

export const trialSchema = z.object({
  versions: z.number().int(),
  gone: z.number().int().describe('Versions that would have gone until now'),
  wentBack: z.number().int().describe('Times that somebody went back to a version'),
  missed: z
    .array(
      z.object({
        versionId: id,
        number: z.number().int(),
        fileId: id,
        file: z.string(),
        by: z.string(),
        how: z.string().describe('What somebody did with it'),
        at: moment.describe('When they went back to it'),
        gone: moment.describe('When it would have gone'),
      }),
    )
    .describe('Those that would not have been there any more'),
  days: z.array(z.object({ at: moment, without: z.number(), withRule: z.number() })).describe('Bytes over time'),
  going: z
    .array(z.object({ at: moment, versions: z.number().int() }))
    .describe('How many would have gone on each day on which some would have'),
  proposed: keepingRuleSchema.describe('A rule that keeps little and would have missed none'),
  proposedGone: z.number().int().describe('Versions that it would have removed until now'),
});

export const sweepReportSchema = z.object({
  files: z.number().int(),
  versions: z.number().int(),
  bytes: z.number().describe('What their contents take where nothing else has them'),
});

export const sweepSchema = z.object({
  due: goingListSchema.describe('What a sweep would remove now'),
  last: z
    .object({ at: moment, report: sweepReportSchema })
    .nullable()
    .describe('The last sweep of this project that somebody asked for'),
  running: z.object({ jobId: id, doing: z.string(), done: z.number(), total: z.number().nullable() }).nullable(),
});

export const sweepStartedSchema = z.object({ jobId: id });

export type Keeping = z.infer<typeof keepingSchema>;
export type Going = z.infer<typeof goingSchema>;
export type GoingList = z.infer<typeof goingListSchema>;
export type TrialResult = z.infer<typeof trialSchema>;
export type SweepReport = z.infer<typeof sweepReportSchema>;
