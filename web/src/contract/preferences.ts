/** What people set for themselves. */
import { z } from 'zod';

export const ignoreSchema = z.object({
  style: z.boolean().default(false).describe('Colours, pens, line types'),
  formatting: z.boolean().default(false).describe('Fonts and sizes of texts'),
  order: z.boolean().default(false).describe('Drawing order'),
  numbering: z.boolean().default(false).describe('Ids and handles'),
  below: z
    .number()
    .min(0)
    .max(1e9)
    .nullable()
    .default(null)
    .describe('Moves and sizes smaller than this, in design units'),
});

export const preferencesSchema = z.object({ ignore: ignoreSchema });

export type Ignore = z.infer<typeof ignoreSchema>;
export type Preferences = z.infer<typeof preferencesSchema>;

export const ignoreNothing: Ignore = { style: false, formatting: false, order: false, numbering: false, below: null };
