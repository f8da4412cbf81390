/** What somebody is about to do to a file, and looks at before it is done. */
import { z } from 'zod';
import { choiceSchema, clashSchema } from '@ovrel/core/contract';
import { versionSchema } from './api.ts';

const id = z.uuid();

const places = z.array(z.number().int().min(0)).max(20_000);

export const askedSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('take back'),
    a: id,
    b: id,
    changes: z
      .array(z.string().max(40))
      .min(1)
      .max(20_000)
      .describe('Ids of changes of the comparison of A and B, or of causes: all of theirs'),
  }),
  z
    .object({
      kind: z.literal('carry over'),
      from: id.describe('A version of this file or of any other'),
      parts: places.default([]).describe('Positions among the parts of that version'),
      layers: z
        .array(z.string().max(500))
        .max(500)
        .default([])
        .describe('All parts on these layers; of layered pictures, these layers'),
      pages: z.array(z.number().int().min(0)).max(5_000).default([]).describe('Whole pages of a document, from 0'),
      boxes: z
        .array(z.tuple([z.number(), z.number(), z.number(), z.number()]))
        .max(1_000)
        .default([])
        .describe('Rectangles of a flat picture, in pixels: left, top, right, bottom'),
    })
    .refine(
      ({ parts, layers, pages, boxes }) => parts.length + layers.length + pages.length + boxes.length > 0,
      'Say what is to be carried over.',
    ),
  z.object({
    kind: z.literal('join'),
    from: id.describe('The last version of the line, or of the file, that is joined'),
  }),
]);

export const newProposalSchema = z.object({
  asked: askedSchema,
  line: id.optional().describe('The line that it is done to; the main line where it is left out'),
});

export const decisionsSchema = z.object({
  decisions: z.record(z.string().max(80), choiceSchema).describe('Choice by the key of a clash'),
});

export const landSchema = z.object({
  note: z.string().max(4000).default(''),
  undecided: z
    .literal('ours')
    .optional()
    .describe('Land although clashes are not decided: what this file has stays in them'),
});

const sourceSchema = z.object({
  versionId: id,
  number: z.number().int(),
  fileId: id,
  file: z.string(),
  line: z.string(),
});

export const toldSchema = z.object({
  clashes: z.array(clashSchema),
  inseparable: z.array(z.string()).describe('Names of parts whose change is bound to others that were not chosen'),
  changed: z.boolean().describe('False where nothing would be done'),
  byHand: z.boolean().optional().describe('What it would be was changed in a program, and put back'),
  says: z.array(z.string()).describe('Of what is taken back: what had been done, in sentences'),
  base: id.optional().describe('Of a join: the version that both sides come from'),
  bases: z.number().int().optional().describe('How many versions could have been taken for it'),
});

export const proposalSchema = toldSchema.extend({
  id,
  fileId: id,
  asked: askedSchema,
  onto: z.object({ id, number: z.number().int(), line: z.string() }).describe('The newest version of the line'),
  outdated: z.boolean().describe('A newer version has landed since: it is made anew before it lands'),
  source: sourceSchema,
  version: versionSchema.describe('What it would be as a version: shown and compared by its id like any other'),
  proposedNote: z.string(),
});
export const openProposalSchema = z.object({ proposal: proposalSchema.nullable() });

export type Asked = z.infer<typeof askedSchema>;
/** The same as somebody asks for it: lists that are empty may be left out. */
export type Asking = z.input<typeof askedSchema>;
export type Told = z.infer<typeof toldSchema>;
export type Proposal = z.infer<typeof proposalSchema>;
