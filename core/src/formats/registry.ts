/** The formats that Ovrel knows. A new format is one new folder and one line here. */
import type { Format } from '../model/format.ts';
import { dxf } from './dxf/index.ts';
import { keptFormats } from './kept/index.ts';
import { ora } from './ora/index.ts';
import { pdf } from './pdf/index.ts';
import { psd } from './psd/index.ts';
import { svg } from './svg/index.ts';
import { text } from './text/index.ts';

export const formats: readonly Format[] = [ora, psd, ...keptFormats, dxf, pdf, svg, text];

/** Bytes that are enough for `detect`. */
export const HEAD_BYTES = 65_536;

/** What the bytes are; undefined for bytes of no known kind. The most certain format wins, then the first. */
export function detect(head: Uint8Array): Format | undefined {
  const sure = formats.find((f) => f.sniff(head) === 'certain');
  return sure ?? formats.find((f) => f.sniff(head) === 'likely');
}

export const extensionOf = (fileName: string): string => /\.([^./\\]+)$/.exec(fileName)?.[1]?.toLowerCase() ?? '';

/** The format that a file's name promises; undefined for unknown endings. */
export const promisedBy = (fileName: string): Format | undefined => {
  const extension = extensionOf(fileName);
  return formats.find((f) => f.extensions.includes(extension));
};

export const formatById = (id: string): Format | undefined => formats.find((f) => f.id === id);
