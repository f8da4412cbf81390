/** Texts: the same words replaced in many, or one that says something else now. */
import type { ChangeDraft } from '../../../causes/draft.ts';
import type { Difference } from '../../../contract/comparison.ts';
import { grouped, type DrawingEvidence, type Explanation, type Facet, type Open } from './open.ts';

const differenceAt = (e: DrawingEvidence, [k, d]: Facet): Difference =>
  (e.changes[k] as ChangeDraft).what[d] as Difference;

/** Texts that say something else are told one by one up to this many. */
const TOLD = 2;

export function texts(open: Open): Explanation[] {
  const { evidence: e } = open;
  const filled = fields(open);
  for (const { facets } of filled) open.take(facets);
  const shifted = numbersShifted(open);
  for (const { facets } of shifted) open.take(facets);
  const groups = grouped(
    open.facets((_, w) => w?.aspect === 'text'),
    (facet) => replacement(differenceAt(e, facet).from, differenceAt(e, facet).to).join(BETWEEN),
  );
  const repeated = groups.filter(([, group]) => group.length > 1);
  const single = groups.flatMap(([, group]) => (group.length === 1 ? group : []));
  return [
    ...filled,
    ...shifted,
    ...repeated.map(([words, group]) => replaced(words, group)),
    ...(single.length > TOLD ? [manyDiffer(e, single)] : single.map((facet) => differs(e, facet))),
  ];
}

/** Fewer numbers may have gone up by themselves. */
const COUNTED = 3;

/** Numbers that went up or down because one was put in or taken out before them. */
function numbersShifted(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((_, w) => w?.aspect === 'text');
  const stepOf = (facet: Facet): string | undefined => {
    const { from, to } = differenceAt(e, facet);
    const [before, after] = [numbered(from), numbered(to)];
    if (!before || !after || before.around !== after.around || before.number === after.number) return undefined;
    return `${after.number - before.number} ${before.around}`;
  };
  return grouped(facets, stepOf).flatMap(([step, group]): Explanation[] => {
    const told = group
      .map((facet) => ({ facet, text: differenceAt(e, facet).to }))
      .sort((p, q) => (numbered(p.text)?.number ?? 0) - (numbered(q.text)?.number ?? 0));
    if (new Set(told.map(({ text }) => text)).size < COUNTED) return [];
    const values = {
      texts: told.length,
      first: told[0]?.text ?? '',
      last: told.at(-1)?.text ?? '',
      by: parseInt(step, 10),
    };
    return [{ kind: 'text', saying: { code: 'numbers-shifted', values }, facets: group }];
  });
}

/** A text with one whole number in it, which is no measure. */
function numbered(text: string): { readonly around: string; readonly number: number } | undefined {
  const found = /^(\D*)(\d{1,6})(\D*)$/.exec(text);
  return found ? { around: `${found[1]}\n${found[3]}`, number: Number(found[2]) } : undefined;
}

const BETWEEN = '\n→\n';

function replaced(words: string, facets: readonly Facet[]): Explanation {
  const [from = '', to = ''] = words.split(BETWEEN);
  return { kind: 'text', saying: { code: 'words-replaced', values: { from, to, texts: facets.length } }, facets };
}

function manyDiffer(e: DrawingEvidence, facets: readonly Facet[]): Explanation {
  const example = differenceAt(e, facets[0] as Facet).to;
  return { kind: 'text', saying: { code: 'texts-differ', values: { texts: facets.length, example } }, facets };
}

function differs(e: DrawingEvidence, facet: Facet): Explanation {
  const { kind, name } = (e.changes[facet[0]] as ChangeDraft).part;
  const { from, to } = differenceAt(e, facet);
  return { kind: 'text', saying: { code: 'text-differs', values: { kind, name, from, to } }, facets: [facet] };
}

/** Fields of one title block or the like that are named, at most. */
const FIELDS = 4;

/** Attributes of one placement, such as a title block, are filled in together. */
function fields(open: Open): Explanation[] {
  const { evidence: e } = open;
  const facets = open.facets((c, w) => w?.aspect === 'text' && c.part.kind === 'attribute' && w.property === undefined);
  const owner = ([k]: Facet): string | undefined => e.b.parts[e.parts[k]?.[1] ?? -1]?.parents[0];
  const tagOf = ([k]: Facet): string => e.changes[k]?.part.name ?? '';
  return grouped(facets, owner).flatMap(([block, group]): Explanation[] => {
    // The same tag again and again is the same edit in many placements; it is treated as words are.
    if (new Set(group.map(tagOf)).size < group.length) return [];
    const named = group.slice(0, FIELDS).map((facet) => {
      const { from, to } = differenceAt(e, facet);
      return { property: tagOf(facet), from, to };
    });
    const values = { block, fields: named, more: group.length - named.length };
    return [{ kind: 'text', saying: { code: 'fields-filled', values }, facets: group }];
  });
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
