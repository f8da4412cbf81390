/** Names and layers of groups, as drawing programs write them into SVG files. */
import type { XmlElement } from '../xml/parse.ts';

/** Value of the attribute with this local name under any prefix ("x:label"). */
function prefixed(e: XmlElement, localName: string): string | undefined {
  for (const name in e.attributes) if (name.endsWith(`:${localName}`)) return e.attributes[name];
  return undefined;
}

/** A name that a person gave: a label, an accessible name, or a title inside. */
export function labelOf(e: XmlElement): string | undefined {
  const label = prefixed(e, 'label') ?? e.attributes['aria-label'] ?? e.attributes['data-name'];
  if (label?.trim()) return label.trim();
  const title = e.children.find((c): c is XmlElement => typeof c !== 'string' && c.name === 'title');
  const text = title?.children
    .filter((c) => typeof c === 'string')
    .join('')
    .trim();
  return text || undefined;
}

/** Ids such as "path4711", "g12-3" or a UUID come from programs and say nothing to people. */
export const looksGenerated = (id: string): boolean =>
  /^(?:[a-z_]{0,16}[-_:.]?\d+(?:[-_.]\d+)*|[0-9a-f]{8}-?(?:[0-9a-f]{4}-?){3}[0-9a-f]{12}|[a-z]{0,3}[0-9a-f]{6,})$/i.test(
    id,
  );

export interface Grouping {
  /** Names of the groups around, outermost first. */
  readonly parents: readonly string[];
  readonly category: string;
  readonly categoryIsKey: boolean;
  /** True once a real layer has been met; plain groups inside it no longer count. */
  readonly inLayer: boolean;
}

export const ungrouped: Grouping = { parents: [], category: '', categoryIsKey: false, inLayer: false };

/**
 * The grouping of what stands inside `group`. Layers win over labelled groups, labelled groups over ids; outermost
 * first.
 */
export function enter(group: XmlElement, around: Grouping): Grouping {
  const label = labelOf(group);
  const id = group.attributes['id'];
  const name = label ?? id;
  if (!name) return around;
  const parents = [...around.parents, name];
  if (prefixed(group, 'groupmode') === 'layer') {
    const own = label ?? id ?? 'layer';
    return {
      parents,
      category: around.inLayer ? `${around.category} › ${own}` : own,
      categoryIsKey: !label,
      inLayer: true,
    };
  }
  if (around.inLayer || (around.category && !around.categoryIsKey)) return { ...around, parents };
  if (label) return { parents, category: label, categoryIsKey: false, inLayer: false };
  if (around.category || !id || looksGenerated(id)) return { ...around, parents };
  return { parents, category: id, categoryIsKey: true, inLayer: false };
}
