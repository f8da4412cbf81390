/** What a packed scene says of itself, as JSON. */
import { z } from 'zod';

const words = z.object({
  text: z.string(),
  x: z.number(),
  y: z.number(),
  size: z.number(),
  family: z.string(),
  weight: z.string(),
  anchor: z.enum(['start', 'middle', 'end']),
  matrix: z.array(z.number()).length(6).describe('From the words’ own coordinates to the page, less `origin`'),
  style: z.number().int(),
  part: z.number().int(),
});

export const sceneHeadSchema = z.object({
  box: z.array(z.number()).length(4).describe('The page, in page coordinates'),
  origin: z
    .array(z.number())
    .length(2)
    .describe('What was taken off every coordinate, so that single precision is enough'),
  yUp: z.boolean(),
  unit: z.string().nullable(),
  unitMillimetres: z.number().nullable(),
  layers: z.array(z.object({ name: z.string(), hidden: z.boolean(), colour: z.string().nullable() })),
  styles: z.array(
    z.object({
      colour: z.string(),
      pen: z.number().describe('Millimetres on paper, 0 where width counts'),
      width: z.number().describe('Design units'),
      dashes: z.array(z.number()),
      opacity: z.number(),
      layer: z.number().int(),
    }),
  ),
  words: z.array(words),
  segments: z.number().int(),
  triangles: z.number().int(),
  parts: z.number().int(),
  reduced: z.string().nullable().describe('What was left out, in a sentence'),
});

export type SceneHead = z.infer<typeof sceneHeadSchema>;
