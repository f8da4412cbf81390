/** Texts: the same words replaced in many, or one that says something else now. */
import { plural } from '../../text/plural.ts';
import type { Facet, Found, Open } from './explain.ts';
import { grouped } from './explain.ts';
import { capital, quoted, sayPart } from './words.ts';

export function texts(open: Open): Found[] {
  const { evidence: e } = open;
  if (e.b.sequential) return [];
  const what = ([k, d]: Facet): { from: string; to: string } => e.changes[k]?.what[d] as { from: string; to: string };
  const out: Found[] = [...attributes(open)];
  const single: Facet[] = [];
  for (const [key, group] of grouped(
    open.facets((_, w) => w?.aspect === 'text'),
    (f) => replacement(what(f).from, what(f).to).join('\n→\n'),
  )) {
    const [from = '', to = ''] = key.split('\n→\n');
    if (group.length === 1) single.push(...group);
    else
      out.push({
        kind: 'text',
        sentence:
          from && to
            ? `${quoted(from)} replaced by ${quoted(to)} in ${plural(group.length, 'text')}`
            : to
              ? `${quoted(to)} put into ${plural(group.length, 'text')}`
              : `${quoted(from)} taken out of ${plural(group.length, 'text')}`,
        facets: group,
      });
  }
  if (single.length > 2)
    out.push({
      kind: 'text',
      sentence: `${plural(single.length, 'text')} say something else, such as ${quoted(what(single[0] as Facet).to)}`,
      facets: single,
    });
  else {
    for (const facet of single) {
      const change = e.changes[facet[0]];
      const { from, to } = what(facet);
      if (change)
        out.push({
          kind: 'text',
          sentence: `${change.part.kind === 'text' ? 'Text' : capital(sayPart(change))} ${quoted(from)} now ${quoted(to)}`,
          facets: [facet],
        });
    }
  }
  return out;
}

/** Attributes of one placement, such as a title block, are filled in together. */
function attributes(open: Open): Found[] {
  const { evidence: e } = open;
  const facets = open.facets((c, w) => w?.aspect === 'text' && c.part.kind === 'attribute' && w.property === undefined);
  const owner = ([k]: Facet): string | undefined => {
    const part = e.b.parts[e.parts[k]?.[1] ?? -1];
    return part?.parents[0];
  };
  const out: Found[] = [];
  for (const [block, group] of grouped(facets, owner)) {
    const tags = new Set(group.map(([k]) => e.changes[k]?.part.name));
    // The same tag again and again is the same edit in many placements; it is treated as words are.
    if (tags.size < group.length) continue;
    const said = group
      .slice(0, 4)
      .map(
        ([k, d]) =>
          `${e.changes[k]?.part.name} ${quoted(e.changes[k]?.what[d]?.from ?? '')} → ${quoted(e.changes[k]?.what[d]?.to ?? '')}`,
      );
    out.push({
      kind: 'text',
      sentence: `${capital(block)}: ${said.join(', ')}${group.length > 4 ? ` and ${group.length - 4} more` : ''}`,
      facets: group,
    });
    open.take(group);
  }
  return out;
}

/** The words that differ, without what is the same before and after; whole words. */
export function replacement(from: string, to: string): readonly [string, string] {
  const x = from.split(/(\s+)/);
  const y = to.split(/(\s+)/);
  let head = 0;
  let tail = 0;
  while (head < Math.min(x.length, y.length) && x[head] === y[head]) head++;
  while (tail < Math.min(x.length, y.length) - head && x[x.length - 1 - tail] === y[y.length - 1 - tail]) tail++;
  return [
    x
      .slice(head, x.length - tail)
      .join('')
      .trim(),
    y
      .slice(head, y.length - tail)
      .join('')
      .trim(),
  ];
}
