import type { Reference } from '../../references/reference.ts';
import { markupReferences } from '../shared/markup-references.ts';
import { decodeAny } from '../shared/plain-text.ts';

/** Pictures only (CommonMark 6.4), and HTML within. */
export function* referencesOfMarkdown(bytes: Uint8Array): Generator<Reference> {
  const text = decodeAny(bytes)
    .replace(/^(```|~~~)[^]*?^\1/gm, '')
    .replace(/`[^`\n]*`/g, '');
  const labels = new Map(
    [...text.matchAll(/^ {0,3}\[([^\]\n]+)\]:\s*(?:<([^>\n]*)>|(\S+))/gm)].map(([, label = '', angled, bare]) => [
      label.trim().toLowerCase(),
      angled ?? bare ?? '',
    ]),
  );
  for (const [, alt = '', angled, bare, label] of text.matchAll(
    /!\[([^\]\n]*)\](?:\(\s*(?:<([^>\n]*)>|([^\s)]+))[^)\n]*\)|\[([^\]\n]*)\])?/g,
  )) {
    const target = angled ?? bare ?? labels.get(((label ?? '') || alt).trim().toLowerCase());
    if (target) yield { target, kind: 'picture' };
  }
  yield* markupReferences(new TextEncoder().encode(text));
}
