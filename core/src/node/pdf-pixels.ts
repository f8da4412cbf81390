/** Pixels as a check of what was read: scanned pages, and pages that look different though their parts are the same. */
import type { Compared, Input } from '../compare-files.ts';
import { summarise } from '../compare/summary.ts';
import type { Cause, Change, Comparison } from '../contract/comparison.ts';
import { drawPdfPage } from '../formats/pdf/draw.ts';
import type { Box } from '../geometry/box.ts';
import type { Design } from '../model/design.ts';
import { words, type Bitmap } from '../raster/bitmap.ts';
import { comparePictures, placedIn, type ComparedPictures } from '../raster/compare-pictures.ts';
import type { Picture } from '../raster/picture.ts';
import { strokesBetween } from '../raster/strokes.ts';

/** Longer side in pixels of a scan, and of a page that is only checked. */
const SCAN = 1600;
const CHECK = 800;
/** Pages of each kind that are drawn; more would take minutes. */
const MOST_SCANS = 60;
const MOST_CHECKED = 24;
/** Share of a page that its pictures cover, above which it counts as scanned. */
const SCANNED = 0.5;

/** The same comparison, with places where pixels differ that no part explains. */
export function checkedByPixels(a: Input, b: Input, compared: Compared): Compared {
  const { designA, designB, comparison } = compared;
  if (!designA || !designB) return compared;
  const changed = new Map<string, Change[]>();
  for (const c of comparison.changes)
    for (const page of new Set([c.partA?.page, c.partB?.page]))
      if (page !== undefined) changed.set(page, [...(changed.get(page) ?? []), c]);
  const scansB = coverage(designB);
  const scansA = coverage(designA);
  const found: { page: string; scan: boolean; scale: number; places: ComparedPictures }[] = [];
  let scans = 0;
  let checked = 0;
  let left = 0;
  for (const [j, page] of designB.pages.entries()) {
    const before = designA.pages[j];
    const place = before?.place ?? (designA.pages.length === designB.pages.length ? j : -1);
    const own = changed.get(page.name) ?? [];
    if (place < 0 || before?.name !== page.name) continue;
    const scan = (scansA[j] ?? 0) > SCANNED && (scansB[j] ?? 0) > SCANNED;
    // What the parts say is enough; only pictures say nothing of what is on them.
    if (own.length && !(scan && own.some(isPicture))) continue;
    if (!own.length && scan) continue;
    if (scan ? ++scans > MOST_SCANS : ++checked > MOST_CHECKED) {
      left++;
      continue;
    }
    const side = scan ? SCAN : CHECK;
    const pa = drawn(a.bytes, place, side);
    const pb = drawn(b.bytes, j, side);
    if (!scan && sameWords(words(pa.bitmap), words(pb.bitmap))) continue;
    // Scanned drawings are lines on paper; photographs are judged as such.
    const lines = !scan || mostlyPaper(pb.bitmap);
    const places = comparePictures(
      pa,
      pb,
      lines
        ? {
            difference: (seen, other, covered) =>
              strokesBetween(seen, other, covered, { reach: scan ? 3 : 1, beside: [], scanned: scan }),
          }
        : {},
    );
    if (scan || places.changes.length)
      found.push({ page: page.name, scan, scale: (page.box[2] - page.box[0]) / pb.bitmap.width, places });
  }
  if (!found.length) return compared;
  return joined(compared, found, left);
}

const sameWords = (p: Uint32Array, q: Uint32Array): boolean => p.length === q.length && p.every((v, k) => v === q[k]);

const PAPER = 0.6;
const LIGHT = 200;

function mostlyPaper({ data }: Bitmap): boolean {
  let light = 0;
  for (let p = 1; p < data.length; p += 4) if ((data[p] as number) > LIGHT) light++;
  return light > (PAPER * data.length) / 4;
}

const isPicture = (c: Change): boolean => c.part.kind === 'image';

const drawn = (bytes: Uint8Array, page: number, side: number): Picture => ({
  bitmap: drawPdfPage(bytes, page, side),
  format: 'png',
  depth: 8,
  density: undefined,
  profile: undefined,
  colours: 'srgb',
  transparent: false,
  pages: 1,
  notes: [],
});

/** Share of each page that its pictures cover. */
function coverage({ pages, parts }: Design): number[] {
  const out = pages.map(() => 0);
  for (const { kind, page, box } of parts) {
    const [x0, y0, x1, y1] = pages[page]?.box ?? [0, 0, 1, 1];
    if (kind === 'image' && box)
      out[page] = (out[page] ?? 0) + ((box[2] - box[0]) * (box[3] - box[1])) / ((x1 - x0) * (y1 - y0));
  }
  return out;
}

function joined(
  compared: Compared,
  found: readonly { page: string; scan: boolean; scale: number; places: ComparedPictures }[],
  left: number,
): Compared {
  const { comparison } = compared;
  const scanned = new Set(found.filter((f) => f.scan && f.places.changes.length).map((f) => f.page));
  const anew = found.filter((f) => f.scan && !f.places.changes.length);
  // Of a scanned page it is said where it changed, not that its picture did.
  const kept = comparison.changes
    .map((c, k) => ({ c, k }))
    .filter(({ c }) => !(isPicture(c) && scanned.has(c.part.page)));
  const gone = new Set(comparison.changes.filter((c) => !kept.some((k) => k.c === c)).map((c) => c.id));
  const changes = kept.map(({ c }) => c);
  const same = new Map(
    anew.map((f) => [f.page, changes.filter((c) => isPicture(c) && c.part.page === f.page).map((c) => c.id)]),
  );
  const said = new Set([...same.values()].flat());
  const parts = kept.map(({ k }) => compared.parts[k] ?? ([-1, -1] as const));
  const causes: Omit<Cause, 'id'>[] = comparison.causes.flatMap((cause) => {
    const own = cause.changes.filter((id) => !gone.has(id) && !said.has(id));
    return own.length || !cause.changes.length
      ? [{ ...cause, changes: own, parts: Math.min(cause.parts, own.length || cause.parts) }]
      : [];
  });
  for (const [page, ids] of same)
    causes.push({
      kind: 'recompressed',
      sentence: `“${page}” scanned anew; nothing on it changed`,
      weight: 2,
      parts: Math.max(1, ids.length),
      changes: ids,
    });
  let next = 1 + Math.max(0, ...comparison.changes.map((c) => Number(c.id.slice(1)) || 0));
  for (const { page, scan, scale, places } of found) {
    const scaled = ([x0, y0, x1, y1]: Box): Box => [x0 * scale, y0 * scale, x1 * scale, y1 * scale];
    const { changes: placed, ids } = placedIn(
      places.changes,
      next,
      (p) => ({ ...p, page, name: `${p.name}, on ${page}` }),
      { a: scaled, b: scaled },
    );
    next += placed.length;
    for (const c of placed) {
      changes.push({ ...c, size: c.size * scale });
      parts.push([-1, -1]);
    }
    if (scan)
      for (const cause of places.causes.filter((x) => x.changes.length > 0))
        causes.push({
          ...cause,
          sentence: `${cause.sentence.replace(/ px/, ' px of its scan')} on “${page}”`,
          changes: cause.changes.map((id) => ids.get(id) ?? id),
        });
    else
      causes.push({
        kind: 'repainted',
        sentence: `Page “${page}” looks different, though its words and shapes are the same`,
        weight: 7,
        parts: ids.size,
        changes: [...ids.values()],
      });
  }
  const sorted = causes.sort((p, q) => q.weight - p.weight).map((c, n): Cause => ({ ...c, id: `k${n + 1}` }));
  const tally = (kind: Change['kind']): number => changes.filter((c) => c.kind === kind).length;
  const counts = {
    ...comparison.counts,
    added: tally('added'),
    removed: tally('removed'),
    changed: tally('changed'),
    moved: tally('moved'),
  };
  const checkedComparison: Comparison = {
    ...comparison,
    changes,
    causes: sorted,
    counts,
    notes: [
      ...comparison.notes,
      ...(left ? [`Pixels of ${left.toLocaleString('en')} more pages were not compared; there are too many.`] : []),
    ],
    summary: summarise('parts', changes, counts, sorted),
  };
  return { ...compared, comparison: checkedComparison, parts };
}
