/** Versions played through time. */
import { filmForms } from '@ovrel/core/film';
import { z } from 'zod';

export const MOST_FRAMES = 120;

export const filmQuerySchema = z.object({
  versions: z
    .string()
    .transform((text) => text.split(','))
    .pipe(
      z
        .array(z.uuid())
        .min(1, 'Choose at least one version.')
        .max(MOST_FRAMES, `A film has at most ${MOST_FRAMES} versions: choose a shorter stretch, or sittings.`),
    )
    .describe('Versions of the file in the order in which they are shown, with commas'),
  as: z.enum(filmForms).default(filmForms[0]),
  pace: z.coerce
    .number()
    .int()
    .min(40, 'No version can be shown for less than 40 ms.')
    .max(10_000)
    .default(700)
    .describe('Milliseconds that each version is shown'),
  marks: z.enum(['yes', 'no']).default('yes').describe('What changed since the version before is lightly marked'),
});
