/** Reads a file at the best level that works, and says which level and why not better. */
import type { Design } from '../model/design.ts';
import { defaultLimits, type Limits } from '../model/limits.ts';
import { ReadError } from '../model/problem.ts';
import type { Format } from '../model/format.ts';
import { detect, HEAD_BYTES, promisedBy } from './registry.ts';
import { looksLikeText, text } from './text/index.ts';

/** How closely a file can be looked at: its parts, its lines, or only its bytes. */
export type Level = 'parts' | 'text' | 'bytes';

export interface Opened {
  readonly format: Format | undefined;
  readonly level: Level;
  /** Present at levels "parts" and "text". */
  readonly design?: Design;
  /** Why the file could not be read at the level that its name or content promises. */
  readonly problem?: { readonly sentence: string; readonly offset: number | undefined };
}

export function open(bytes: Uint8Array, fileName: string, limits: Limits = defaultLimits): Opened {
  const head = bytes.subarray(0, HEAD_BYTES);
  const format = detect(head);
  const promised = promisedBy(fileName);
  if (bytes.length === 0) {
    const readable = promised?.read && promised.id !== 'text';
    return {
      format: undefined,
      level: 'bytes',
      ...(readable
        ? { problem: { sentence: `The file is empty, so there is no ${promised.title} in it.`, offset: 0 } }
        : {}),
    };
  }
  if (format?.read && format.id !== 'text') {
    try {
      return { format, level: 'parts', design: format.read(bytes, limits) };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      return lesser(bytes, format, { sentence: error.message, offset: error.offset }, limits);
    }
  }
  if (promised?.read && promised.id !== 'text' && promised !== format) {
    const what = format
      ? `its content is ${format.id === 'text' ? 'plain text' : `a ${format.title}`}`
      : 'its content is of no kind that Ovrel knows';
    return lesser(bytes, format, { sentence: `The name says ${promised.title}, but ${what}.`, offset: 0 }, limits);
  }
  return lesser(bytes, format, undefined, limits);
}

function lesser(bytes: Uint8Array, format: Format | undefined, problem: Opened['problem'], limits: Limits): Opened {
  const said = problem ? { problem } : {};
  // Lines of a damaged document tell nobody anything, even where it is written in letters.
  if (format?.id !== 'pdf' && looksLikeText(bytes.subarray(0, HEAD_BYTES)) && text.read) {
    try {
      return { format, level: 'text', design: text.read(bytes, limits), ...said };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      return { format, level: 'bytes', problem: problem ?? { sentence: error.message, offset: error.offset } };
    }
  }
  return { format, level: 'bytes', ...said };
}
