/** A table of values as it is written: its rows. */
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Source } from '../../model/source.ts';
import { TextSource } from '../text/source.ts';
import { readCsv } from './read.ts';

/** Throws ReadError where its rows are not what lies between the ends of its lines. */
export function sourceOfRows(bytes: Uint8Array, limits: Limits): Source {
  const { parts } = readCsv(bytes, limits);
  const source = new TextSource(bytes, true);
  // Empty rows at the end are no rows of the table.
  if (source.nodes.length - 1 < parts.length)
    throw new ReadError('The rows of this table cannot be told apart in its file.', undefined, 'unsupported');
  return source;
}
