/** Plain text, read as a sequence of lines. The level that everything textual falls back to. */
import { identity } from '../../geometry/matrix.ts';
import { emptyGeometry, type Design, type Part } from '../../model/design.ts';
import type { Format } from '../../model/format.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';

export const text: Format = {
  id: 'text',
  title: 'text',
  extensions: ['txt', 'md', 'csv', 'json', 'xml', 'html', 'css', 'yaml', 'yml', 'tex', 'log', 'ini'],
  mime: 'text/plain',
  sniff: (head) => (looksLikeText(head) ? 'likely' : 'no'),
  read: readText,
};

const textEncoding = (b: Uint8Array): string =>
  b[0] === 0xff && b[1] === 0xfe ? 'utf-16le' : b[0] === 0xfe && b[1] === 0xff ? 'utf-16be' : 'utf-8';

/** No control characters but white space, and few bytes that are not UTF-8. */
export function looksLikeText(head: Uint8Array): boolean {
  if (head.length === 0) return false;
  const sample = head.subarray(0, 16_384);
  const decoded = new TextDecoder(textEncoding(sample)).decode(sample);
  let odd = 0;
  for (let i = 0; i < decoded.length; i++) {
    const c = decoded.charCodeAt(i);
    if (c === 0) return false;
    if ((c < 32 && c !== 9 && c !== 10 && c !== 13 && c !== 12 && c !== 27) || c === 0xfffd) odd++;
  }
  return odd <= decoded.length * 0.02 + 1;
}

function readText(bytes: Uint8Array, limits: Limits): Design {
  if (bytes.length > limits.bytes)
    throw new ReadError(
      `The file is larger than ${Math.round(limits.bytes / 1024 / 1024)} MB, which is more than Ovrel reads line by line.`,
    );
  const lines = new TextDecoder(textEncoding(bytes)).decode(bytes).split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  if (lines.length > limits.elements)
    throw new ReadError(
      `The file has more than ${limits.elements.toLocaleString('en')} lines, which is more than Ovrel reads line by line.`,
    );
  const parts: Part[] = lines.map((line, i) => ({
    key: `line ${i + 1}`,
    kind: 'line',
    name: line.trim().slice(0, 160),
    parents: [],
    category: '',
    categoryIsKey: false,
    page: 0,
    firstSubpath: 0,
    subpaths: 0,
    box: undefined,
    transform: identity,
    props: { text: line },
    span: [0, 0],
  }));
  return {
    format: 'text',
    origin: {},
    pages: [{ name: 'Text', box: [0, 0, 0, lines.length] }],
    parts,
    definitions: [],
    geometry: emptyGeometry,
    notes: [],
    sequential: true,
  };
}
