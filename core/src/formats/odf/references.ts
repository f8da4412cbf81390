import { strFromU8, unzipSync } from 'fflate';
import type { Reference, ReferenceKind } from '../../references/reference.ts';
import { unescaped } from '../shared/markup-references.ts';

/** Members of a container larger than this are not looked into, in bytes. */
const LARGEST_MEMBER = 16 * 1024 * 1024;

/**
 * Pictures, objects and sections that lie outside of the package (OpenDocument 1.3, part 2, 4.10: paths that lead out
 * of it begin with "../").
 */
export function* referencesOfOdf(bytes: Uint8Array): Generator<Reference> {
  const members = unzipSync(bytes, {
    filter: (m) => (m.name === 'content.xml' || m.name === 'styles.xml') && m.originalSize <= LARGEST_MEMBER,
  });
  for (const content of Object.values(members)) {
    for (const [, element = '', inside = ''] of strFromU8(content).matchAll(
      /<(draw:image|draw:object|draw:plugin|text:section-source|table:table-source|style:background-image|draw:fill-image)\b([^>]*)>/g,
    )) {
      const href = unescaped(/\bxlink:href\s*=\s*"([^"]*)"/.exec(inside)?.[1] ?? '');
      // Without "../" it lies inside; an absolute address lies outside.
      if (!/^(?:\.\.\/|[a-z][a-z0-9+.-]*:)/i.test(href)) continue;
      yield {
        target: href.replace(/^\.\.\//, ''),
        kind: kindOf(element),
      };
    }
  }
}

function kindOf(element: string): ReferenceKind {
  if (element.includes('image')) return 'picture';
  return element === 'table:table-source' ? 'table' : 'document';
}
