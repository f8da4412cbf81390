/** Contents that facts are about. */
import { cardOf, extensionOf, HEAD_BYTES, isDrawable, readKinds } from '@ovrel/core';
import { ToLoad, type Source } from '../compute/task.ts';
import { config } from '../config.ts';
import { readContent, readWhole } from '../store/reader.ts';
import type { VersionRow } from '../versions/rows.ts';

export type Subject = Pick<VersionRow, 'content_id' | 'upload_name' | 'size' | 'format'>;

/** The name matters only by its ending, which may promise a format. */
export const endingOf = (subject: Subject): string => extensionOf(subject.upload_name);

const nameFor = (subject: Subject): string => `file.${endingOf(subject)}`;

/** All bytes, which are read when there is room for them. */
export const sourceOf = (subject: Subject): ToLoad =>
  new ToLoad(Number(subject.size), async () => ({
    bytes: Uint8Array.from(await readWhole(subject.content_id)),
    name: nameFor(subject),
  }));

/** The first bytes: enough to say what a content is that has no reader. */
export async function headOf(subject: Subject): Promise<Source> {
  const pieces: Buffer[] = [];
  for await (const piece of readContent(subject.content_id, 0, HEAD_BYTES)) pieces.push(piece);
  return { bytes: Uint8Array.from(Buffer.concat(pieces)), name: nameFor(subject) };
}

/** Whether contents are small enough to be looked into. */
export const isReadable = (...subjects: readonly Subject[]): boolean =>
  subjects.every((subject) => Number(subject.size) <= config.readLimit);

/** Contents that have parts or lines. */
export const hasReader = ({ format }: Subject): boolean =>
  cardOf(format)?.kinds.some((kind) => readKinds.has(kind)) ?? false;

/** Contents that a comparison looks into. */
export const looksInto = (subject: Subject): boolean => hasReader(subject) || hasPicture(subject);

/** Documents whose pages are put in, taken out and moved, and that are read page by page. */
export const hasPages = ({ format }: Subject): boolean => cardOf(format)?.fine === true;

/** Contents that can be drawn small. */
export const hasPicture = ({ format }: Subject): boolean => isDrawable(cardOf(format));
