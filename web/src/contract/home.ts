/** The first page: what happened since somebody was last here, and their projects. */
import { z } from 'zod';
import { projectSchema } from './api.ts';
import { goingListSchema } from './keeping.ts';

const id = z.uuid();
const moment = z.string().describe('UTC, ISO 8601');
const person = z.object({ id, name: z.string() });
const file = z.object({ id, name: z.string(), projectId: id, project: z.string() });

const newsSchema = z.object({
  entry: z.number().int().describe('Of the ledger; of several, the last'),
  at: moment,
  by: person.nullable().describe('Null: Ovrel itself, by a rule'),
  act: z.string().describe('What was done, as the ledger says it'),
  times: z.number().int().describe('So many in a row, by the same person on the same file'),
  subject: z.string(),
  reason: z.string(),
  file,
  picture: z
    .object({ versionId: id, format: z.string().nullable() })
    .nullable()
    .describe('A version to show: the one that was made, else the newest'),
});

const askSchema = z.object({ file, by: person, reason: z.string(), at: moment });
const heldSchema = z.object({ file, line: z.string().nullable().describe('Null: the main line'), at: moment });

const tileSchema = projectSchema.extend({
  picture: z.object({ versionId: id, format: z.string().nullable() }).nullable(),
  working: z.array(person.extend({ how: z.enum(['holds', 'looks']) })).describe('Who holds or looks at something now'),
  activity: z.array(z.number().int()).describe('Versions made in each of the last 26 weeks, the last is this one'),
});

export const homeSchema = z.object({
  since: moment.nullable().describe('When you were last here; null: never before'),
  news: z.array(newsSchema).describe('About files that you follow, by others; the newest first'),
  asks: z.array(askSchema).describe('Who asks for what you have checked out'),
  held: z.array(heldSchema).describe('What you have checked out'),
  going: goingListSchema.describe('Versions of yours that go within seven days'),
  projects: z.array(tileSchema),
});

export const followSchema = z.object({ follows: z.boolean() });

export type Home = z.infer<typeof homeSchema>;
export type News = z.infer<typeof newsSchema>;
export type Tile = z.infer<typeof tileSchema>;
