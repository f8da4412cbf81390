/** What was found by looking into one content. */
import { layerSchema, levels, titleBlockSchema } from '@ovrel/core/contract';
import { z } from 'zod';

export const lookSchema = z.object({
  level: z.enum(levels).describe('How closely the content can be looked at'),
  format: z.string().nullable(),
  formatTitle: z.string().nullable(),
  problem: z.string().nullable().describe('Why it could not be read as what its name or content promises'),
  again: z
    .boolean()
    .default(false)
    .describe('True where it took too long this time and can be tried again (?again=yes)'),
  locked: z.boolean().describe('True for a document that needs a password'),
  program: z.string().nullable().describe('The program that wrote it, as far as the file says'),
  units: z.string().nullable(),
  page: z.object({ box: z.array(z.number()).length(4), unitMillimetres: z.number().nullable() }).nullable(),
  pages: z.array(z.string()).describe('Names of the pages: model and layouts of a drawing'),
  pageBoxes: z.array(z.array(z.number()).length(4)).describe('Their bounds, in design units'),
  scene: z
    .boolean()
    .describe('True where the page is drawn from its parts (GET …/scene) instead of shown as a picture'),
  formatVersion: z.string().nullable(),
  parts: z.number().int(),
  lines: z.number().int(),
  kinds: z.record(z.string(), z.number().int()),
  picture: z
    .object({
      width: z.number().int(),
      height: z.number().int(),
      depth: z.number().int(),
      density: z.number().nullable().describe('Pixels an inch'),
      profile: z.string().nullable(),
      colours: z.string(),
      transparent: z.boolean(),
      pages: z.number().int(),
      damaged: z.boolean(),
    })
    .nullable()
    .describe('What the file says of a picture'),
  solid: z
    .object({
      size: z.array(z.number()).length(3),
      volume: z.number(),
      area: z.number(),
      triangles: z.number().int(),
      closed: z.boolean(),
      open: z.number().int().describe('Edges of one triangle alone: they go round holes'),
      flipped: z.number().int().describe('Edges where one side is inside out'),
    })
    .nullable()
    .default(null)
    .describe('What can be measured of a model, in its own unit'),
  layers: z.array(layerSchema).describe('Layers of a picture, from the top; empty where it has none'),
  titleBlocks: z
    .array(z.object({ page: z.string(), fields: titleBlockSchema }))
    .describe('Pages whose title blocks were recognised (ISO 7200)'),
  notes: z.array(z.string()),
  viewTag: z.object({ start: z.number().int(), end: z.number().int(), tag: z.string() }).nullable(),
});

export type Look = z.infer<typeof lookSchema>;
