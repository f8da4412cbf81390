/** Plain text as a sequence of lines: the level that everything textual falls back to. */
import { plainDesign, plainPart, type Design, type Part } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { decodeText, looksLikeText } from '../shared/plain-text.ts';

const LONGEST_NAME = 160;

const lineOf = (text: string, index: number): Part =>
  plainPart({
    key: `line ${index + 1}`,
    kind: 'line',
    name: text.trim().slice(0, LONGEST_NAME),
    box: undefined,
    props: { text },
  });

/** Throws ReadError where it is no text, or more than the limits allow. */
export function readLines(bytes: Uint8Array, limits: Limits): Design {
  if (!looksLikeText(bytes)) throw new ReadError('It is not written in letters.', 0, 'unsupported');
  if (bytes.length > limits.bytes)
    throw new ReadError(
      `The file is larger than ${Math.round(limits.bytes / 1024 / 1024)} MB, which is more than Ovrel reads line by line.`,
      undefined,
      'too-large',
    );
  const lines = decodeText(bytes).split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  if (lines.length > limits.elements)
    throw new ReadError(
      `The file has more than ${limits.elements.toLocaleString('en')} lines, which is more than Ovrel reads line by line.`,
      undefined,
      'too-large',
    );
  const page = { name: 'Text', box: [0, 0, 0, lines.length] } as const;
  return { ...plainDesign('text', page, lines.map(lineOf)), sequential: true };
}
