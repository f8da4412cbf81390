/** Pairs the pages of two documents: the same, moved, inserted, removed. */
import { plainPart, type Design, type Page, type Part } from '../../model/design.ts';
import { printedPages } from '../../model/printed.ts';
import type { Step } from '../kind.ts';

/** Share of what two pages hold that must be alike for them to be one page. */
const ALIKE = 0.25;

/** What a page holds, as counts of prints: words, and shapes by kind and place. */
function printsOf(design: Design): Map<string, number>[] {
  const out = design.pages.map(() => new Map<string, number>());
  for (const part of design.parts) {
    const key = printOf(part);
    const of = out[part.page];
    of?.set(key, (of.get(key) ?? 0) + 1);
  }
  return out;
}

const printOf = ({ kind, box, lettering, props }: Part): string =>
  lettering
    ? `“${lettering.runs.map((r) => r.text).join(' ')}”`
    : `${kind} ${String(props['source'] ?? '')} ${(box ?? []).map((v) => Math.round(v / 4)).join(' ')}`;

/** Prints that stand on most pages (frames, logos) tell nothing of which page is which. */
function weigher(a: readonly Map<string, number>[], b: readonly Map<string, number>[]): (print: string) => number {
  const pages = new Map<string, number>();
  const all = a.length + b.length;
  for (const page of [...a, ...b]) for (const print of page.keys()) pages.set(print, (pages.get(print) ?? 0) + 1);
  return (print) => Math.log(1 + all / (pages.get(print) ?? 1));
}

function likeness(p: Map<string, number>, q: Map<string, number>, weight: (print: string) => number): number {
  let shared = 0;
  let all = 0;
  for (const [print, n] of p) {
    const w = weight(print);
    const m = q.get(print) ?? 0;
    shared += w * Math.min(n, m);
    all += w * Math.max(n, m);
  }
  for (const [print, m] of q) if (!p.has(print)) all += weight(print) * m;
  return all ? shared / all : 1;
}

export function pairPages(a: Design, b: Design): number[] {
  const pa = printsOf(a);
  const pb = printsOf(b);
  const weight = weigher(pa, pb);
  const whole = (p: Map<string, number>): string =>
    [...p]
      .map(([k, n]) => `${k}×${n}`)
      .sort()
      .join('|');
  return pairAlike(
    pa.map(whole),
    pb.map(whole),
    (i, j) => likeness(pa[i] as Map<string, number>, pb[j] as Map<string, number>, weight),
    ALIKE,
  );
}

/**
 * For each page of A its page in B, or −1. `a` and `b` tell what is exactly the same; `likeness` is 1 for that, and
 * pages below `least` are not paired by it.
 */
export function pairAlike(
  a: readonly string[],
  b: readonly string[],
  likeness: (i: number, j: number) => number,
  least: number,
): number[] {
  const toB = new Array<number>(a.length).fill(-1);
  const taken = new Set<number>();
  const take = (i: number, j: number): void => {
    toB[i] = j;
    taken.add(j);
  };
  // Pages that hold exactly the same, in order.
  const places = new Map<string, number[]>();
  b.forEach((whole, j) => places.set(whole, [...(places.get(whole) ?? []), j]));
  a.forEach((whole, i) => {
    const j = places.get(whole)?.shift();
    if (j !== undefined) take(i, j);
  });
  // Then the most alike; of pages that are equally so, those that stand in the same order.
  const candidates: { i: number; j: number; score: number }[] = [];
  a.forEach((_, i) => {
    if (toB[i] !== -1) return;
    b.forEach((_other, j) => {
      if (taken.has(j)) return;
      const score = likeness(i, j);
      if (score >= least)
        candidates.push({ i, j, score: score - 0.02 * Math.min(1, Math.abs(i - j) / Math.max(a.length, b.length)) });
    });
  });
  for (const { i, j } of candidates.sort((p, q) => q.score - p.score)) if (toB[i] === -1 && !taken.has(j)) take(i, j);
  // What stands between the same neighbours, as many on both sides, is the same page drawn anew.
  for (let i = 0; i < a.length; i++) {
    if (toB[i] !== -1) continue;
    let end = i;
    while (end < a.length && toB[end] === -1) end++;
    const from = i ? (toB[i - 1] as number) + 1 : 0;
    const to = end < a.length ? (toB[end] as number) : b.length;
    const free = [];
    for (let j = from; j < to; j++) if (!taken.has(j)) free.push(j);
    if (free.length === end - i && to > from) free.forEach((j, k) => take(i + k, j));
    i = end - 1;
  }
  return toB;
}

/**
 * A seen in B's order of pages, so that what is on one page is compared with what is on its pair; pages without one
 * stand after B's.
 */
export function paged(a: Design, b: Design): Design {
  const pairs = pairPages(a, b);
  const order: Page[] = b.pages.map((page) => ({ ...page, place: -1 }));
  const at: number[] = [];
  const taken = new Set(b.pages.map((p) => p.name));
  a.pages.forEach((page, i) => {
    const j = pairs[i] as number;
    if (j >= 0) {
      order[j] = { ...page, name: (b.pages[j] as Page).name, place: i };
      at.push(j);
    } else at.push(order.push({ ...page, name: taken.has(page.name) ? `${page.name} of A` : page.name, place: i }) - 1);
  });
  return { ...a, pages: order, parts: a.parts.map((p) => ({ ...p, page: at[p.page] ?? p.page })) };
}

/** A page of B, or one that only A has, and whether anything on it differs. */
export interface PageEntry {
  readonly name: string;
  readonly state: 'same' | 'changed' | 'added' | 'removed';
  /** Position in A, from 0; null where A has no such page. */
  readonly was: number | null;
}

/**
 * Which pages changed, long before it is known what changed on them: in B's order, those that only A has at the end.
 */
export function pageList(a: Design, b: Design): PageEntry[] {
  const seen = paged(a, b);
  const printsA = printedPages(seen);
  const printsB = printedPages(b);
  return seen.pages.map((page, k): PageEntry => {
    const own = b.pages[k];
    const was = page.place ?? -1;
    if (!own) return { name: page.name, state: 'removed', was };
    if (was < 0) return { name: own.name, state: 'added', was: null };
    return { name: own.name, state: printsA[k] === printsB[k] ? 'same' : 'changed', was };
  });
}

/** A document as its pages: each is one part. */
export const pagesAsParts = (design: Design): Design => ({
  ...design,
  definitions: [],
  parts: design.pages.map(({ name, box }, page) => plainPart({ kind: 'page', name, box, page, span: [page, page] })),
});

/** Which page of A is which of B, and on which of B's anything differs. */
export function pageStep(a: Design, b: Design): Step {
  const toB = Int32Array.from(pairPages(a, b));
  const toA = new Int32Array(b.pages.length).fill(-1);
  toB.forEach((j, i) => {
    if (j >= 0) toA[j] = i;
  });
  const [was, is] = [printedPages(a), printedPages(b)];
  const edited = new Set([...toA.keys()].filter((j) => (toA[j] as number) >= 0 && was[toA[j] as number] !== is[j]));
  return { pairing: { toA, toB, keysTrusted: false, renumbered: false }, edited };
}
