/**
 * What a document would do if a program let it: scripts, programs started, addresses asked (ISO 32000-2, 12.6). Ovrel
 * does none of it.
 */
import { plural } from '../../text/plural.ts';

const kinds: readonly (readonly [RegExp, (n: number) => string])[] = [
  [/\/S\s*\/JavaScript\b/g, (n) => plural(n, 'script')],
  [/\/S\s*\/Launch\b/g, (n) => `${plural(n, 'action that would start', 'actions that would start')} a program`],
  [/\/S\s*\/(?:GoToR|GoToE|ImportData)\b/g, (n) => plural(n, 'reference to another file', 'references to other files')],
  [/\/S\s*\/(?:URI|SubmitForm)\b/g, (n) => `${plural(n, 'link to an address', 'links to addresses')} outside`],
  [
    /\/Subtype\s*\/(?:RichMedia|Movie|Screen|3D)\b/g,
    (n) => plural(n, 'film, sound or model', 'films, sounds or models'),
  ],
];

/**
 * A plain sentence about what it carries, or nothing. `text`: the document as bytes, a letter each, its objects not
 * packed.
 */
export function actionsIn(text: string, scripts: number): string | undefined {
  const found = kinds.flatMap(([pattern, say], k) => {
    const n = Math.max(text.match(pattern)?.length ?? 0, k === 0 ? scripts : 0);
    return n ? [say(n)] : [];
  });
  if (!found.length) return undefined;
  return `The document carries ${found.length > 1 ? `${found.slice(0, -1).join(', ')} and ${found.at(-1)}` : found[0]}. Ovrel keeps that in the file; it never runs, follows or fetches any of it.`;
}
