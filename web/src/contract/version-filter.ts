/** Which versions of a history are shown: of the rail, of a file's history, of a project's. */
import { z } from 'zod';

export const filterKinds = ['keeper', 'check-in', 'autosave', 'backup'] as const;
export type FilterKind = (typeof filterKinds)[number];

const day = z.iso.date({ error: 'Give the day as 2026-10-20.' });

export const versionFilterSchema = z.object({
  kinds: z
    .string()
    .transform((text) => text.split(','))
    .pipe(z.array(z.enum(filterKinds)))
    .optional()
    .describe('Keepers, check-ins, autosaves, backups, with commas; all where it is left out'),
  person: z.uuid().optional().describe('Who made them'),
  words: z.string().trim().max(200).optional().describe('Of the note, the title or its description; all of them'),
  from: day.optional().describe('The first day (UTC)'),
  to: day.optional().describe('The last day (UTC)'),
});

export type VersionFilter = z.output<typeof versionFilterSchema>;

export const isFiltering = ({ kinds, person, words, from, to }: VersionFilter): boolean =>
  [kinds, person, words, from, to].some((value) => value !== undefined && value !== '');
