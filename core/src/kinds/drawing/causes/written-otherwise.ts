/** What another program wrote in its own way, and what is drawn as before: one cause, whatever was written. */
import type { Design } from '../../../model/design.ts';
import type { Explanation, Open } from './open.ts';
import { changesOf } from './words.ts';

const WEIGHT = 1.6;

/** Names and groups are no part of what is drawn. */
const NOT_DRAWN: ReadonlySet<string> = new Set(['name', 'layer']);

const OUTLINE: ReadonlySet<string> = new Set(['geometry', 'placement', 'kind']);

export function writtenOtherwise(open: Open): Explanation[] {
  const { evidence: e } = open;
  const withoutGroups = losesAll(e.a, e.b, (design) => design.parts.some((part) => part.category !== ''));
  const withoutNames = losesAll(e.a, e.b, (design) => design.parts.some((part) => part.props['label'] !== undefined));
  const facets = open.facets((_, what, k) => {
    if (what === undefined) return e.unseen.has(k);
    if (what.aspect === 'layer') return withoutGroups;
    if (what.aspect === 'name') return withoutNames;
    const unseen = e.unseen.get(k);
    return unseen === 'whole' ? !NOT_DRAWN.has(what.aspect) : unseen === 'outline' && OUTLINE.has(what.aspect);
  });
  if (facets.length === 0) return [];
  const parts = changesOf(facets).size;
  const values = { parts, ...(withoutGroups ? { groups: 'gone' as const } : {}) };
  return [{ kind: 'rewritten', saying: { code: 'written-otherwise', values }, facets, weight: WEIGHT }];
}

/** The file of B has none of what that of A has. Declared layers are of the drawing itself. */
const losesAll = (a: Design, b: Design, has: (design: Design) => boolean): boolean =>
  a.layers === undefined && has(a) && !has(b);
