/** The pages of two documents while they are being read: what is known of each so far. */
import { printedOn } from '../../model/printed.ts';
import { pageList, type PageEntry } from './pages.ts';
import { detect, HEAD_BYTES } from '../../formats/registry.ts';
import type { PageRead } from '../../model/format.ts';
import type { Design } from '../../model/design.ts';
import { defaultLimits, type Limits } from '../../model/limits.ts';

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

/** Both are read page by page; undefined for formats that are read as a whole. */
type Reading = Generator<PageRead, Design, undefined>;

/**
 * Reads two documents side by side and gives what `pageList` gives of them. `tell` is called after every page; what
 * it can ask for is made only then. Throws ReadError as reading does. Undefined for contents that are not read page
 * by page.
 */
export async function pagesAsRead(
  a: Uint8Array,
  b: Uint8Array,
  tell: (soFar: () => PagesSoFar) => void,
  limits: Limits = defaultLimits,
): Promise<PageEntry[] | undefined> {
  const readings = await Promise.all([readingOf(a, limits), readingOf(b, limits)]);
  const [readingA, readingB] = readings;
  if (!readingA || !readingB) return undefined;
  try {
    const [designA, designB] = sideBySide([new Side(readingA), new Side(readingB)], tell);
    return pageList(designA, designB);
  } finally {
    // Closes what is still open; designs are known by then, or never will be.
    for (const reading of readings) reading?.return(undefined as never);
  }
}

async function readingOf(bytes: Uint8Array, limits: Limits): Promise<Reading | undefined> {
  const format = await detect(bytes.subarray(0, HEAD_BYTES))?.load();
  return format?.readPages?.(bytes, limits);
}

/** One document as far as it is read. */
class Side {
  readonly prints: string[] = [];
  readonly names: string[] = [];
  count = 0;
  design: Design | undefined;
  private readonly reading: Reading;

  constructor(reading: Reading) {
    this.reading = reading;
  }

  /** Reads the next page; false where that was the last. */
  next(): boolean {
    const { done, value } = this.reading.next();
    if (done) {
      this.design = value;
      return false;
    }
    this.count = value.count;
    this.prints.push(printedOn(value.page, value.parts));
    this.names.push(value.page.name);
    return true;
  }
}

function sideBySide(sides: readonly [Side, Side], tell: (soFar: () => PagesSoFar) => void): [Design, Design] {
  for (;;) {
    for (const side of sides) if (!side.design && side.next()) tell(() => soFar(...sides));
    const [{ design: a }, { design: b }] = sides;
    if (a && b) return [a, b];
  }
}

function soFar(a: Side, b: Side): PagesSoFar {
  const inA = new Set(a.prints);
  const pages = Array.from({ length: b.count }, (_, k): PageSoFar => {
    const name = b.names[k] ?? `Page ${k + 1}`;
    return { name, state: stateOf(b.prints[k], a.prints[k], inA) };
  });
  return { read: a.prints.length + b.prints.length, all: a.count + b.count, pages };
}

function stateOf(own: string | undefined, there: string | undefined, inA: ReadonlySet<string>): PageSoFar['state'] {
  if (own === undefined) return 'unread';
  if (inA.has(own)) return 'same';
  return there === undefined ? 'unread' : 'changed';
}
