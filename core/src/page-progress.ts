/** The pages of two documents while they are being read: what is known of each so far. */
import { pageList, printedOn, type PageEntry } from './compare/pages.ts';
import { readingPdf } from './formats/pdf/read.ts';
import type { Design } from './model/design.ts';
import { defaultLimits, type Limits } from './model/limits.ts';

/** A page of B: the same as one of A, unlike the one that stands at its place, or not known yet. */
export interface PageSoFar {
  readonly name: string;
  readonly state: 'same' | 'changed' | 'unread';
}

export interface PagesSoFar {
  /** Pages that were read, of both documents; and how many there are. */
  readonly read: number;
  readonly all: number;
  readonly pages: readonly PageSoFar[];
}

/**
 * Reads two PDF documents side by side and gives what `pageList` gives of them. `tell` is called after every page; what it can ask for is
 * made only then. Throws ReadError as reading does.
 */
export function pagesAsRead(
  a: Uint8Array,
  b: Uint8Array,
  tell: (soFar: () => PagesSoFar) => void,
  limits: Limits = defaultLimits,
): PageEntry[] {
  const sides = [readingPdf(a, limits), readingPdf(b, limits)] as const;
  const designs: Design[] = [];
  const prints: [string[], string[]] = [[], []];
  const names: string[] = [];
  const counts = [0, 0];
  const inA = new Set<string>();
  const soFar = (): PagesSoFar => ({
    read: prints[0].length + prints[1].length,
    all: (counts[0] ?? 0) + (counts[1] ?? 0),
    pages: Array.from({ length: counts[1] ?? 0 }, (_, k): PageSoFar => {
      const own = prints[1][k];
      const name = names[k] ?? `Page ${k + 1}`;
      return {
        name,
        state: own === undefined ? 'unread' : inA.has(own) ? 'same' : prints[0][k] === undefined ? 'unread' : 'changed',
      };
    }),
  });
  try {
    while (designs.filter(Boolean).length < 2) {
      for (const [side, reading] of sides.entries()) {
        if (designs[side]) continue;
        const { done, value } = reading.next();
        if (done) {
          designs[side] = value;
          continue;
        }
        const print = printedOn(value.page, value.parts);
        counts[side] = value.count;
        prints[side as 0 | 1].push(print);
        if (side) names.push(value.page.name);
        else inA.add(print);
        tell(soFar);
      }
    }
  } finally {
    // Closes what is still open; designs are known by then, or never will be.
    for (const reading of sides) reading.return(undefined as never);
  }
  return pageList(designs[0] as Design, designs[1] as Design);
}
