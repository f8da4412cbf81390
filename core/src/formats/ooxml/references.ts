import { strFromU8, unzipSync } from 'fflate';
import type { Reference, ReferenceKind } from '../../references/reference.ts';
import { unescaped } from '../shared/markup-references.ts';

/** Members of a container larger than this are not looked into, in bytes. */
const LARGEST_MEMBER = 16 * 1024 * 1024;

/** Linked workbooks, documents and pictures (ISO/IEC 29500-2: relationships with an external target). */
export function* referencesOfOoxml(bytes: Uint8Array): Generator<Reference> {
  const members = unzipSync(bytes, {
    filter: (m) => /(?:^|\/)_rels\/[^/]+\.rels$/.test(m.name) && m.originalSize <= LARGEST_MEMBER,
  });
  for (const [name, content] of Object.entries(members)) {
    for (const [, inside = ''] of strFromU8(content).matchAll(/<Relationship\b([^>]*)>/g)) {
      const value = (attribute: string): string =>
        unescaped(new RegExp(`\\b${attribute}\\s*=\\s*["']([^"']*)["']`).exec(inside)?.[1] ?? '');
      if (value('TargetMode') !== 'External' || /hyperlink$/.test(value('Type'))) continue;
      yield {
        target: value('Target'),
        kind: kindOf(name, value('Type')),
      };
    }
  }
}

function kindOf(member: string, relationship: string): ReferenceKind {
  if (member.includes('externalLinks')) return 'table';
  return relationship.endsWith('image') ? 'picture' : 'document';
}
