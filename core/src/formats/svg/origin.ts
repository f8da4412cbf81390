import type { Origin } from '../../model/design.ts';

/**
 * Which program wrote the drawing: a generator comment at the head, or a version attribute of an editor's vocabulary.
 */
export function originOf(head: Uint8Array, rootAttributes: Readonly<Record<string, string>>): Origin {
  const text = new TextDecoder('utf-8').decode(head);
  const comment = /<!--\s*(?:Generator:?|Created with)\s+([^>]{2,120}?)\s*-->/i
    .exec(text)?.[1]
    ?.replace(/\s*\([^)]*$/, '');
  const versioned = Object.keys(rootAttributes).find(
    (name) => /^[a-z]+:version$/.test(name) && !name.startsWith('sodipodi'),
  );
  const program = comment ?? (versioned ? `${versioned.split(':')[0]} ${rootAttributes[versioned]}` : undefined);
  const formatVersion = rootAttributes['version'];
  return { ...(program ? { program } : {}), ...(formatVersion ? { formatVersion } : {}) };
}
