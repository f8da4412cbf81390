/** What a comparison is, as JSON. The types of the engine are derived from here. */
import { z } from 'zod';
import { levels } from './levels.ts';

export const changeKinds = ['added', 'removed', 'changed', 'moved'] as const;
export const aspects = [
  'geometry',
  'placement',
  'style',
  'text',
  'formatting',
  'layer',
  'name',
  'kind',
  'definition',
  'image',
  'content',
  'size',
  'formula',
  'value',
  'format',
  'comment',
] as const;

const box = z
  .tuple([z.number(), z.number(), z.number(), z.number()])
  .describe('left, top, right, bottom in design units');

export const partSummarySchema = z.object({
  key: z.string().nullable().describe('Identity in the file, where the format gives one'),
  kind: z.string(),
  name: z.string(),
  category: z.string().describe('Layer or group; empty for none'),
  page: z.string(),
  index: z.number().int().optional().describe('Position among the parts of its side, as `ovrel read` lists them'),
});

export const differenceSchema = z.object({
  aspect: z.enum(aspects),
  property: z.string().optional().describe('Which style property'),
  at: z
    .number()
    .optional()
    .describe('Of contents compared byte by byte: where they first differ, in bytes from the beginning'),
  from: z.string(),
  to: z.string(),
});

const rise = z.tuple([z.number(), z.number()]).describe('Of what stands in space: lowest and highest z');

export const changeSchema = z.object({
  id: z.string().describe('Stable for the same two contents'),
  kind: z.enum(changeKinds),
  part: partSummarySchema.describe('The part in B, or in A where it was removed'),
  partA: partSummarySchema.optional(),
  partB: partSummarySchema.optional(),
  what: z.array(differenceSchema),
  boxA: box.nullable(),
  boxB: box.nullable(),
  zA: rise.optional(),
  zB: rise.optional(),
  material: z
    .object({
      volume: z.number().describe('In cubic units of B; negative where it was taken away'),
      deviation: z.number().describe('How far it reaches from the other surface, at most'),
      diameter: z.number().optional().describe('Of a round hole or pin'),
      axis: z.tuple([z.number(), z.number(), z.number()]).optional(),
    })
    .optional()
    .describe('Of models: a place where material came or went'),
  size: z
    .number()
    .describe(
      'How far the furthest point went, or how large the part is that came or went, in design units; 0 where nothing moved',
    ),
});

export const causeKinds = [
  'units',
  'origin',
  'page',
  'definition',
  'replaced',
  'motion',
  'stretch',
  'scale',
  'added',
  'removed',
  'text',
  'reshaped',
  'layer-renamed',
  'layer-look',
  'layer',
  'relayered',
  'style',
  'formatting',
  'property',
  'repainted',
  'tone',
  'sharpness',
  'cropped',
  'resampled',
  'turned',
  'flipped',
  'recompressed',
  'profile',
  'measured',
  'exploded',
  'blocked',
  'split',
  'joined',
  'rewritten',
  'order',
  'renumbered',
  'lines',
  'material',
  'surface',
  'triangulated',
  'constant',
  'formula',
  'values',
  'rows',
  'columns',
  'sheet',
  'sorted',
  'recalculated',
  'cells-look',
  'error',
] as const;

export const causeSchema = z.object({
  id: z.string().describe('Stable for the same two contents'),
  kind: z.enum(causeKinds),
  code: z.string().describe('What the sentence says; programs go by this and the values'),
  values: z.record(z.string(), z.unknown()).describe('Names, numbers and units of the sentence'),
  within: z
    .object({
      page: z.string().optional(),
      layer: z.string().optional(),
      whole: z.object({ kind: z.enum(['layer', 'group']), name: z.string() }).optional(),
    })
    .optional()
    .describe('The page or layer of something larger that the cause belongs to'),
  sentence: z.string().describe('What was done, with numbers and units'),
  weight: z.number().describe('How much it matters to a reader; the list is heaviest first'),
  parts: z.number().int().describe('How many parts it touches'),
  changes: z.array(z.string()).describe('Ids of the changes that it explains, wholly or in part'),
});

export const sideSchema = z.object({
  name: z.string(),
  bytes: z.number().int(),
  format: z.string().nullable(),
  level: z.enum(levels),
  problem: z.string().nullable().describe('Why the file could not be read as what it claims to be'),
  locked: z.boolean().optional().describe('True for a document that needs a password'),
  notes: z.array(z.string()),
});

export const countsSchema = z.object({
  added: z.number().int(),
  removed: z.number().int(),
  changed: z.number().int(),
  moved: z.number().int(),
  unchanged: z.number().int(),
});

/** Fields of a title block (ISO 7200), by name. */
export const titleBlockSchema = z
  .object({
    number: z.string(),
    title: z.string(),
    revision: z.string(),
    date: z.string(),
    scale: z.string(),
    sheet: z.string(),
    status: z.string(),
    type: z.string(),
    owner: z.string(),
    creator: z.string(),
    approved: z.string(),
  })
  .partial();

const both = <S extends z.ZodType>(of: S): z.ZodTuple<[S, S]> => z.tuple([of, of]);

/** What can be measured of two models as a whole, in the unit of B. */
export const measuresSchema = z.object({
  volume: both(z.number()),
  area: both(z.number()),
  closed: both(z.boolean()).describe('Whether all of it encloses bodies'),
  centre: both(z.tuple([z.number(), z.number(), z.number()])).describe('Centres of mass'),
  triangles: both(z.number().int()),
  bodies: both(z.number().int()).describe('Parts that have a surface'),
  open: both(z.number().int()).describe('Edges of one triangle alone: they go round holes'),
  flipped: both(z.number().int()).describe('Edges where one side is inside out'),
  deviation: z
    .object({ mean: z.number(), rms: z.number(), p95: z.number(), max: z.number(), within: z.number() })
    .nullable()
    .describe('Of the surfaces from one another, both ways; null where they are too large for it'),
});

export const comparisonSchema = z.object({
  engine: z.string().describe('Name and version of the engine; results of different engines may differ'),
  level: z.enum(levels).describe('How closely both files could be looked at'),
  unit: z.string().describe('Unit of boxes and lengths'),
  a: sideSchema,
  b: sideSchema,
  counts: countsSchema,
  changes: z.array(changeSchema),
  causes: z.array(causeSchema).describe('What a careful person would say was done, heaviest first'),
  tolerance: z.number().describe('Distance in design units within which places count as the same'),
  titleBlocks: z
    .array(
      z.object({
        page: z.string(),
        a: titleBlockSchema.nullable(),
        b: titleBlockSchema.nullable(),
        stale: z.boolean().describe('True where the page changed and its revision did not'),
      }),
    )
    .optional()
    .describe('Pages whose title blocks were recognised'),
  measures: measuresSchema.optional(),
  notes: z.array(z.string()).describe('What a reader of the comparison should know'),
  summary: z.string().describe('The change in one line'),
});

export const layerSchema = z
  .object({
    name: z.string(),
    kind: z.enum(['layer', 'group']),
    group: z.number().int().describe('Index of the group that holds it, −1 for none'),
    hidden: z.boolean(),
    opacity: z.number(),
    blend: z.string(),
    box: z.array(z.number()).length(4).nullable().describe('Where its pixels lie; null where it has none'),
  })
  .describe('A layer of a picture');

export type PictureLayerEntry = z.infer<typeof layerSchema>;
export type PartSummary = z.infer<typeof partSummarySchema>;
export type Difference = z.infer<typeof differenceSchema>;
export type Change = z.infer<typeof changeSchema>;
export type Side = z.infer<typeof sideSchema>;
export type Cause = z.infer<typeof causeSchema>;
export type CauseKind = (typeof causeKinds)[number];
export type SolidMeasures = z.infer<typeof measuresSchema>;
export type Counts = z.infer<typeof countsSchema>;
export type Comparison = z.infer<typeof comparisonSchema>;
export type ChangeKind = (typeof changeKinds)[number];
export type Aspect = (typeof aspects)[number];
