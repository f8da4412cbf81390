/** What stands between two sides that are joined, as JSON. The types of the engine are derived from here. */
import { z } from 'zod';
import { partSummarySchema } from './comparison.ts';

/** From ours to theirs: `removed-and-changed` is what ours removed and theirs changed. */
export const clashKinds = ['both-changed', 'removed-and-changed', 'changed-and-removed', 'same-place'] as const;
export const choices = ['ours', 'theirs', 'both'] as const;
export const choiceSchema = z.enum(choices);

export const clashSideSchema = z.object({
  part: partSummarySchema,
  box: z.tuple([z.number(), z.number(), z.number(), z.number()]).nullable(),
  text: z.string().nullable().describe('The words, where it has some'),
});

export const clashSchema = z.object({
  key: z.string().describe('The same for the same contents: decisions are kept by it'),
  kind: z.enum([...clashKinds, 'whole-file']),
  choices: z.array(choiceSchema).describe('How it can be decided'),
  choice: choiceSchema.describe('How it is decided now; ours unless somebody said otherwise'),
  decided: z.boolean(),
  base: clashSideSchema.nullable(),
  ours: clashSideSchema.nullable().describe('Null where this side has it no more, or not yet'),
  theirs: clashSideSchema.nullable(),
});

export type ClashKind = (typeof clashKinds)[number];
export type Choice = (typeof choices)[number];
export type ClashSide = z.infer<typeof clashSideSchema>;
export type ToldClash = z.infer<typeof clashSchema>;
