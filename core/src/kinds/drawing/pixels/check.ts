/** Pixels as a check of what was read: scanned pages, and pages that look different though their parts are the same. */
import { withChanges, type CauseDraft, type ChangeDraft } from '../../../causes/draft.ts';
import type { Box } from '../../../geometry/box.ts';
import type { Design } from '../../../model/design.ts';
import { orUnreadable, ReadError } from '../../../model/problem.ts';
import { words, type Bitmap } from '../../../raster/bitmap.ts';
import { comparePictures, placedIn, type ComparedPictures } from '../../picture/compare.ts';
import { strokesBetween } from '../../picture/drawn/strokes.ts';
import type { ComparedDesigns } from '../compare.ts';
import { pagePairs, type Drawn, type PagePair } from './pages.ts';

/** Longer side in pixels of a scan, and of a page that is only checked. */
const SCAN = 1600;
const CHECK = 800;
/** Pages of each kind that are drawn; more would take minutes. */
const MOST_SCANS = 60;
const MOST_CHECKED = 300;
/** Of a page with more changes they say enough. */
const FEW = 12;
/** Around what changed, in design units. */
const MARGIN = 4;
/** Share of a page that its pictures cover, above which it counts as scanned. */
const SCANNED = 0.5;
/** How far lines may lie beside one another, in pixels. */
const REACH = { scan: 3, check: 1 } as const;

/** A page that is looked at. */
interface Wanted extends PagePair {
  /** Both sides show a scan. */
  readonly scan: boolean;
  /** Where parts of it changed, in design units: what differs there is told already. */
  readonly told: readonly Box[];
}

interface LookedAt extends Wanted {
  /** Design units of a pixel. */
  readonly scale: number;
  readonly places: ComparedPictures;
}

/** The same comparison, with places where pixels differ that no part explains. */
export async function checkedByPixels(
  a: Design,
  b: Design,
  compared: ComparedDesigns,
  draw: Drawn,
): Promise<ComparedDesigns> {
  const pairs = worthALook(a, b, compared);
  const scans = pairs.filter((p) => p.scan);
  const checks = pairs.filter((p) => !p.scan);
  const looked = new Set([...scans.slice(0, MOST_SCANS), ...checks.slice(0, MOST_CHECKED)]);
  const found: LookedAt[] = [];
  let left = pairs.length - looked.size;
  for (const pair of looked) {
    const one = await orUnreadable(lookAt(pair, draw));
    // One page that cannot be drawn takes nothing from the others; where none can, whoever asks should know.
    if (one instanceof ReadError && pairs.length === 1) throw one;
    if (one instanceof ReadError) left += 1;
    else if (one) found.push(one);
  }
  found.sort((p, q) => p.inB - q.inB);
  const notes = left ? [...compared.notes, notLookedAt(left)] : compared.notes;
  return found.length ? joined({ ...compared, notes }, found) : { ...compared, notes };
}

const notLookedAt = (pages: number): string =>
  `Pixels of ${pages.toLocaleString('en')} ${pages === 1 ? 'page' : 'pages'} were not compared.`;

/** Pages that are on both sides and of which parts do not tell everything. */
function worthALook(a: Design, b: Design, { changes }: ComparedDesigns): Wanted[] {
  const changed = new Map<string, ChangeDraft[]>();
  for (const change of changes)
    for (const page of new Set([change.partA?.page, change.partB?.page]))
      if (page !== undefined) changed.set(page, [...(changed.get(page) ?? []), change]);
  const scansA = coverage(a);
  const scansB = coverage(b);
  return pagePairs(a, b).flatMap((pair): Wanted[] => {
    const own = changed.get(pair.b.name) ?? [];
    const scan = (scansA[pair.inB] ?? 0) > SCANNED && (scansB[pair.inB] ?? 0) > SCANNED;
    // Of a scan only its picture can be looked at; where many parts changed, they say enough.
    const wanted = scan ? own.some(isPicture) : own.length <= FEW;
    return wanted
      ? [{ ...pair, scan, told: own.flatMap(({ boxA, boxB }) => [boxA, boxB]).filter((box) => box !== null) }]
      : [];
  });
}

/** Undefined where nothing differs that would have to be said. */
async function lookAt(pair: Wanted, draw: Drawn): Promise<LookedAt | undefined> {
  const side = pair.scan ? SCAN : CHECK;
  const pa = await draw.a(pair.inA, side);
  const pb = await draw.b(pair.inB, side);
  if (!pair.scan && sameWords(words(pa.bitmap), words(pb.bitmap))) return undefined;
  // Scanned drawings are lines on paper; photographs are judged as such.
  const lines = !pair.scan || mostlyPaper(pb.bitmap);
  const reach = pair.scan ? REACH.scan : REACH.check;
  const places = lines
    ? comparePictures(pa, pb, {
        difference: (seen, other, covered) =>
          strokesBetween(seen, other, covered, { reach, beside: [], scanned: pair.scan }),
      })
    : comparePictures(pa, pb);
  const [x0, , x1] = pair.b.box;
  const scale = (x1 - x0) / pb.bitmap.width;
  if (pair.scan) return { ...pair, scale, places };
  const changes = places.changes.filter((place) => !isTold(place, scale, pair.told));
  return changes.length > 0 ? { ...pair, scale, places: { ...places, changes } } : undefined;
}

/** Whether a place touches what changed anyway. */
function isTold({ boxA, boxB }: ChangeDraft, scale: number, told: readonly Box[]): boolean {
  const [x0, y0, x1, y1] = (boxB ?? boxA ?? [0, 0, 0, 0]).map((v) => v * scale) as [number, number, number, number];
  return told.some(
    (box) => x0 <= box[2] + MARGIN && x1 >= box[0] - MARGIN && y0 <= box[3] + MARGIN && y1 >= box[1] - MARGIN,
  );
}

const sameWords = (p: Uint32Array, q: Uint32Array): boolean => p.length === q.length && p.every((v, k) => v === q[k]);

const PAPER = 0.6;
const LIGHT = 200;

function mostlyPaper({ data }: Bitmap): boolean {
  let light = 0;
  for (let p = 1; p < data.length; p += 4) if ((data[p] as number) > LIGHT) light++;
  return light > (PAPER * data.length) / 4;
}

const isPicture = (change: ChangeDraft): boolean => change.part.kind === 'image';

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

const NO_PART = [-1, -1] as const;

function joined(compared: ComparedDesigns, found: readonly LookedAt[]): ComparedDesigns {
  const scanned = new Set(found.filter((f) => f.scan && f.places.changes.length).map((f) => f.b.name));
  // Of a scanned page it is said where it changed, not that its picture did.
  const kept = [...compared.changes.keys()].filter((k) => {
    const change = compared.changes[k] as ChangeDraft;
    return !(isPicture(change) && scanned.has(change.part.page));
  });
  const changes = kept.map((k) => compared.changes[k] as ChangeDraft);
  const parts = kept.map((k) => compared.parts[k] ?? NO_PART);
  const anew = found.filter((f) => f.scan && !f.places.changes.length).map((f) => scannedAnew(f.b.name, changes));
  const said = new Set(anew.flatMap((cause) => cause.changes));
  const placeOf = new Map(kept.map((k, n) => [k, n]));
  const causes = withChanges(compared.causes, (k) => {
    const place = placeOf.get(k);
    return place === undefined || said.has(place) ? undefined : place;
  });
  causes.push(...anew);
  for (const page of found) {
    const first = changes.length;
    changes.push(...placesOn(page));
    parts.push(...page.places.changes.map(() => NO_PART));
    causes.push(...causesOn(page, first));
  }
  return { ...compared, changes, parts, causes };
}

function scannedAnew(page: string, changes: readonly ChangeDraft[]): CauseDraft {
  const own = changes.flatMap((change, k) => (isPicture(change) && change.part.page === page ? [k] : []));
  return {
    kind: 'recompressed',
    saying: { code: 'page-scanned-anew', values: { page } },
    weight: 2,
    parts: Math.max(1, own.length),
    changes: own,
  };
}

/** What differs on a page, in the units of the document. */
function placesOn({ b: { name }, scale, places }: LookedAt): ChangeDraft[] {
  const scaled = ([x0, y0, x1, y1]: Box): Box => [x0 * scale, y0 * scale, x1 * scale, y1 * scale];
  const placed = placedIn(places.changes, {
    a: scaled,
    b: scaled,
    part: (part) => ({ ...part, page: name, name: `${part.name}, on ${name}` }),
  });
  return placed.map((change) => ({ ...change, size: change.size * scale }));
}

function causesOn({ b: { name }, scan, told, places }: LookedAt, first: number): CauseDraft[] {
  if (!scan) {
    const changes = places.changes.map((_, k) => first + k);
    const values = { page: name, ...(told.length > 0 ? { places: places.changes.length } : {}) };
    const saying = { code: 'page-looks-different', values } as const;
    return [{ kind: 'repainted', saying, weight: 7, changes }];
  }
  const placed = places.causes.filter((cause) => cause.changes.length > 0);
  return withChanges(placed, (k) => first + k).map((cause) => ({
    ...cause,
    saying: ofScan(cause.saying),
    within: { page: name },
  }));
}

/** Sizes are in pixels of the scan, not of the page. */
const ofScan = (saying: CauseDraft['saying']): CauseDraft['saying'] =>
  saying.code === 'places' ? { ...saying, values: { ...saying.values, scan: true } } : saying;
