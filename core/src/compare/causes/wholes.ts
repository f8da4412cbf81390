/** What happened to the drawing as a whole: units, origin, scale, pages. */
import { angleOf } from '../../geometry/matrix.ts';
import type { Design } from '../../model/design.ts';
import { longestRising } from '../../match/rising.ts';
import { plural } from '../../text/plural.ts';
import { unitsExplain } from '../units.ts';
import type { Found, Open } from './explain.ts';
import { quoted, sayNumber, sayShift, withUnit } from './words.ts';

export function wholes(open: Open): Found[] {
  return [...unitsAndPlace(open), ...pages(open)];
}

function unitsAndPlace({ evidence: e }: Open): Found[] {
  const { a, b, registration: r } = e;
  const from = a.origin.units;
  const to = b.origin.units;
  const out: Found[] = [];
  const byUnits = r !== undefined && unitsExplain(a, b, r);
  const mmFrom = a.pages[0]?.unitMillimetres;
  const mmTo = b.pages[0]?.unitMillimetres;
  if (byUnits)
    out.push({
      kind: 'units',
      sentence: `Drawing units ${from ?? 'none'} → ${to ?? 'none'}, with every number converted`,
      facets: [],
      parts: b.parts.length,
      weight: 20,
    });
  else if (a.format === b.format && from !== to && !b.sequential && (mmFrom ?? 0) !== (mmTo ?? 0)) {
    const ratio =
      mmFrom && mmTo ? `; the numbers stay, so everything is ${sayNumber(mmTo / mmFrom)} times as large` : '';
    out.push({
      kind: 'units',
      sentence: `Drawing units ${from ?? 'none'} → ${to ?? 'none'}${ratio}`,
      facets: [],
      parts: b.parts.length,
      weight: 20,
    });
  }
  if (!r) return out;
  const shifted = Math.hypot(r.matrix[4], r.matrix[5]) > e.tolerance * 4;
  const scaled = !byUnits && Math.abs(r.scale - 1) > 1e-6;
  const turned = Math.abs(r.turn) > 1e-4;
  if (byUnits && !shifted) return out;
  const turn = (b.yUp ? -1 : 1) * angleOf(r.matrix);
  const how = [
    ...(scaled ? [`scaled by ${sayNumber(r.scale)}`] : []),
    ...(turned ? [`turned by ${sayNumber(turn)}°`] : []),
    ...(shifted && !turned && !scaled
      ? [`moved by ${sayShift(e, r.matrix[4], r.matrix[5])}`]
      : shifted
        ? [`and moved by ${sayShift(e, r.matrix[4], r.matrix[5])}`]
        : []),
  ];
  const facets = e.changes.flatMap((c, k) => (e.details[k]?.global ? [[k, c.what.length - 1] as const] : []));
  out.push({
    kind: scaled ? 'scale' : 'origin',
    sentence: `Everything ${how.join(' ')}, ${plural(facets.length || b.parts.length, 'part')}`,
    facets,
    parts: facets.length || b.parts.length,
    weight: 18,
  });
  return out;
}

function pages(open: Open): Found[] {
  const { evidence: e } = open;
  const { a, b } = e;
  const out: Found[] = [];
  if (a.sequential || b.sequential) return out;
  for (const [kind, mine, theirs, verb] of [
    ['added', b, a, 'added'],
    ['removed', a, b, 'removed'],
  ] as const) {
    for (const page of mine.pages) {
      if (
        mine.pages.length < 2 ||
        page.place === -1 ||
        theirs.pages.some((p) => p.name === page.name && p.place !== -1)
      )
        continue;
      const facets = open.facets((c) => c.kind === kind && c.part.page === page.name);
      out.push(
        facets.length
          ? {
              kind: 'page',
              sentence: `Page ${quoted(page.name)} ${verb}, with ${plural(facets.length, 'part')}`,
              facets,
            }
          : { kind: 'page', sentence: `Page ${quoted(page.name)} ${verb}, empty`, facets, weight: 1 },
      );
    }
  }
  out.push(...moved(a, b));
  const [onlyA, onlyB] = [a.pages[0], b.pages[0]];
  if (a.format === 'svg' && onlyA && onlyB && !e.registration) {
    const size = (p: typeof onlyA): string => `${sayNumber(p.box[2] - p.box[0])} × ${sayNumber(p.box[3] - p.box[1])}`;
    if (size(onlyA) !== size(onlyB) && !sameSize(onlyA.box, onlyB.box, e.tolerance))
      out.push({
        kind: 'page',
        sentence: `Page ${quoted(onlyB.name)}: ${size(onlyA)} → ${withUnit(size(onlyB), e.unit)}`,
        facets: [],
        parts: 0,
        weight: 6,
      });
  }
  if (b.format === 'pdf') out.push(...resized(a, b));
  return out;
}

/** Pages of documents that are larger or smaller now: one cause for all that went the same way. */
function resized(a: Design, b: Design): Found[] {
  const ways = new Map<string, string[]>();
  const size = ({ box }: Design['pages'][number]): string =>
    `${Math.round((box[2] - box[0]) * MILLIMETRES)} × ${Math.round((box[3] - box[1]) * MILLIMETRES)}`;
  for (const page of b.pages) {
    const before = a.pages.find((p) => p.name === page.name && p.place !== -1);
    if (!before || size(before) === size(page)) continue;
    const way = `${size(before)} → ${size(page)} mm`;
    ways.set(way, [...(ways.get(way) ?? []), page.name]);
  }
  return [...ways].map(([way, names]): Found => ({
    kind: 'page',
    sentence: `${names.length === 1 ? `Page ${quoted(names[0] as string)}` : plural(names.length, 'page')}: ${way}`,
    facets: [],
    parts: 0,
    weight: 18.5,
  }));
}

/** Of a point of a document. */
const MILLIMETRES = 25.4 / 72;

/** Pages that stand elsewhere in the row of those that stayed. */
function moved(a: Design, b: Design): Found[] {
  const order = b.pages.flatMap((page, j) =>
    (a.pages[j]?.place ?? -1) >= 0 && a.pages[j]?.name === page.name
      ? [{ name: page.name, was: a.pages[j]?.place ?? 0 }]
      : [],
  );
  const stayed = new Set(longestRising(order.map((p) => p.was)));
  return order.flatMap(({ name, was }): Found[] =>
    stayed.has(was)
      ? []
      : [{ kind: 'page', sentence: `Page ${quoted(name)} was page ${was + 1}`, facets: [], parts: 0, weight: 6 }],
  );
}

const sameSize = (p: readonly number[], q: readonly number[], tolerance: number): boolean =>
  p.every((v, k) => Math.abs(v - (q[k] as number)) <= 8 * tolerance);
