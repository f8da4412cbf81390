/** Pictures of several pages or frames: paired by what is on them, then compared one by one. */
import { changeId } from '../../causes/assemble.ts';
import { withChanges, type CauseDraft, type ChangeDraft } from '../../causes/draft.ts';
import type { Saying } from '../../causes/say.ts';
import { longestRising } from '../../match/rising.ts';
import type { Pictures } from '../../model/format.ts';
import { pageName, type Picture } from '../../model/picture.ts';
import { noOutlines, type ChangeOutlines } from '../drawing/outlines.ts';
import { pairAlike } from '../drawing/pages.ts';
import type { FoundInPair } from '../kind.ts';
import { comparePictures, placedIn } from './compare.ts';
import { outlinesOfPictures } from './outlines.ts';

/** Pages of a picture that are compared; the others only count. */
const MOST_PAGES = 40;
/** Side of the small views that pages are paired by, in pixels; and how well they must agree (1 for the same). */
const SIDE = 40;
const ALIKE = 0.6;

interface Sketch {
  readonly key: string;
  /** Lightness less its mean, of length 1; all 0 for a plain page. */
  readonly light: Float32Array;
}

async function sketches(pictures: Pictures, count: number): Promise<Sketch[]> {
  const out: Sketch[] = [];
  for (let k = 0; k < count; k++) {
    const small = (await pictures.sketch(k, SIDE)) ?? new Uint8Array(SIDE * SIDE);
    const mean = small.reduce((sum, v) => sum + v, 0) / small.length;
    const light = Float32Array.from(small, (v) => v - mean);
    const length = Math.hypot(...light);
    out.push({ key: small.join(' '), light: length > SIDE ? light.map((v) => v / length) : light.fill(0) });
  }
  return out;
}

const likeness = ({ light: p }: Sketch, { light: q }: Sketch): number =>
  p.reduce((sum, v, k) => sum + v * (q[k] as number), 0);

/** For each page of A that is compared, its page in B, or −1. */
async function pairs(a: Pictures, countA: number, b: Pictures, countB: number): Promise<number[]> {
  const pa = await sketches(a, countA);
  const pb = await sketches(b, countB);
  return pairAlike(
    pa.map((s) => s.key),
    pb.map((s) => s.key),
    (i, j) => likeness(pa[i] as Sketch, pb[j] as Sketch),
    ALIKE,
  );
}

/** Throws ReadError where a page cannot be decoded. */
export async function comparePages(a: Pictures, b: Pictures): Promise<FoundInPair> {
  const countA = Math.min(a.count, MOST_PAGES);
  const countB = Math.min(b.count, MOST_PAGES);
  const toB = await pairs(a, countA, b, countB);
  const comparing = new ComparingPages(a, b, toB);
  for (let j = 0; j < countB; j++) await comparing.page(toB.indexOf(j), j);
  for (let i = 0; i < countA; i++) if (toB[i] === -1) await comparing.removed(i);
  for (const [i, j] of movedPages(toB)) comparing.moved(i, j);
  if (Math.max(a.count, b.count) > MOST_PAGES) comparing.notes.add(`Only the first ${MOST_PAGES} pages were compared.`);
  return comparing.found();
}

/** Collects what is found page by page. */
class ComparingPages {
  readonly notes = new Set<string>();
  private readonly changes: ChangeDraft[] = [];
  private readonly causes: CauseDraft[] = [];
  private readonly pagesA: ChangeOutlines['pages']['a'] = [];
  private readonly pagesB: ChangeOutlines['pages']['b'] = [];
  private readonly outlines: ChangeOutlines['outlines'] = {};
  private readonly laidOn: NonNullable<ChangeOutlines['laidOn']> = {};
  private readonly a: Pictures;
  private readonly b: Pictures;
  private readonly toB: readonly number[];
  private first: { a: readonly string[]; b: readonly string[] } = { a: [], b: [] };
  private words: { a: Pick<Picture, 'pageWord'>; b: Pick<Picture, 'pageWord'> } | undefined;

  constructor(a: Pictures, b: Pictures, toB: readonly number[]) {
    this.a = a;
    this.b = b;
    this.toB = toB;
  }

  /** Page `j` of B with its page `i` of A, −1 for none. */
  async page(i: number, j: number): Promise<void> {
    const after = await this.b.page(j);
    const before = i < 0 ? undefined : await this.a.page(i);
    const name = pageName(after, j);
    this.words = { a: before ?? this.words?.a ?? after, b: after };
    if (j === 0) this.first = { ...this.first, b: after.notes };
    if (i === 0 && before) this.first = { ...this.first, a: before.notes };
    this.pagesB[j] = { name, box: [0, 0, after.bitmap.width, after.bitmap.height] };
    if (before) this.compared(before, i, after, name);
    else this.say({ code: 'frame-came', values: { name, verb: 'added' } });
  }

  async removed(i: number): Promise<void> {
    const before = await this.a.page(i);
    const name = i < this.pagesB.length ? `${pageName(before, i)} of A` : pageName(before, i);
    this.pagesA[i] = { name, box: [0, 0, before.bitmap.width, before.bitmap.height] };
    if (i === 0) this.first = { ...this.first, a: before.notes };
    this.say({ code: 'frame-came', values: { name, verb: 'removed' } });
  }

  moved(i: number, j: number): void {
    if (!this.words) return;
    this.say({ code: 'frame-moved', values: { name: pageName(this.words.b, j), was: pageName(this.words.a, i) } });
  }

  found(): FoundInPair {
    return {
      changes: this.changes,
      causes: this.causes,
      unchanged: 0,
      notes: [...this.notes],
      unit: 'px',
      tolerance: 0,
      sideNotes: this.first,
      outlines: {
        ...noOutlines,
        pageA: this.pagesA[0] ?? null,
        pageB: this.pagesB[0] ?? null,
        pages: { a: this.pagesA, b: this.pagesB },
        outlines: this.outlines,
        laidOn: this.laidOn,
      },
    };
  }

  private say(saying: Saying): void {
    this.causes.push({ kind: 'page', saying, weight: 9, parts: 1, changes: [] });
  }

  private compared(before: Picture, i: number, after: Picture, name: string): void {
    const first = this.changes.length;
    const found = comparePictures(before, after);
    const { outlines, laid } = outlinesOfPictures(found, before.bitmap, after.bitmap);
    this.pagesA[i] = { name, box: [0, 0, before.bitmap.width, before.bitmap.height] };
    this.changes.push(...placedIn(found.changes, { part: (part) => ({ ...part, page: name }) }));
    found.changes.forEach((_, k) => {
      this.outlines[changeId(first + k)] = outlines[changeId(k)] ?? {};
    });
    for (const cause of withChanges(found.causes, (k) => first + k))
      this.causes.push({ ...cause, within: { page: name } });
    if (laid) this.laidOn[name] = laid;
    for (const note of found.notes) this.notes.add(note);
  }
}

/** Pairs that stand in another order: the fewest that must be taken out so that all others follow one another. */
function movedPages(toB: readonly number[]): [number, number][] {
  const paired = toB.flatMap((j, i): [number, number][] => (j < 0 ? [] : [[i, j]]));
  const kept = new Set(longestRising(paired.map(([, j]) => j)));
  return paired.filter(([, j]) => !kept.has(j));
}
