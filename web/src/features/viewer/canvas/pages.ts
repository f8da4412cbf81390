/** Which page of what is shown is in view. */
import type { Change } from '@ovrel/core/contract';
import type { ComparisonResponse, VersionDetail } from '../../../contract/api.ts';
import type { Box } from '../camera.ts';

export interface PageShown {
  /** All pages, by name: those of B, then those that only A has. */
  readonly names: readonly string[];
  readonly page: string | undefined;
  /** Its place among the pages of A, and of B. */
  readonly atA: number | undefined;
  readonly atB: number | undefined;
}

/** `result` is undefined where only B is shown. */
export function pageShown(
  detail: VersionDetail | undefined,
  result: ComparisonResponse | undefined,
  comparing: boolean,
  asked: string | undefined,
): PageShown {
  const inA = result?.picture.pages.a.map((p) => p.name) ?? [];
  const inB = (comparing ? result?.picture.pages.b.map((p) => p.name) : detail?.look.pages) ?? [];
  const names = comparing ? [...inB, ...inA.filter((name) => !inB.includes(name))] : inB;
  const page = asked !== undefined && names.includes(asked) ? asked : names[0];
  const place = (all: readonly string[]): number | undefined => {
    const at = page === undefined ? -1 : all.indexOf(page);
    return at < 0 ? undefined : at;
  };
  return { names, page, atA: place(inA), atB: place(inB) };
}

/** The first page on which anything changed: a set of many sheets is opened there. */
export function firstTouched({ comparison, picture }: ComparisonResponse): string | undefined {
  if (picture.pages.b.length < 2) return undefined;
  const touched = new Set(comparison.changes.map((c) => c.part.page));
  return picture.pages.b.find((p) => touched.has(p.name))?.name;
}

const boxOf = (box: readonly number[] | undefined): Box | undefined =>
  box?.length === 4 ? (box as unknown as Box) : undefined;

/** The part of the design that a page shows, of A and of B. */
export function pageBoxes(
  detail: VersionDetail | undefined,
  result: ComparisonResponse | undefined,
  comparing: boolean,
  { atA, atB }: PageShown,
): { readonly a: Box | undefined; readonly b: Box | undefined } {
  const picture = result?.picture;
  const a = atA === undefined ? undefined : picture?.pages.a[atA]?.box;
  const compared = atB === undefined ? undefined : picture?.pages.b[atB]?.box;
  const alone = atB === undefined ? undefined : detail?.look.pageBoxes[atB];
  return {
    a: boxOf(a ?? picture?.pageA?.box),
    b: boxOf(comparing ? (compared ?? picture?.pageB?.box) : (alone ?? detail?.look.page?.box)),
  };
}

export const onPage = (changes: readonly Change[], page: string | undefined): readonly Change[] =>
  page === undefined ? changes : changes.filter((c) => c.part.page === page);

/** The smallest box around others; undefined around none. */
export const around = (boxes: readonly Box[]): Box | undefined =>
  boxes.length === 0
    ? undefined
    : boxes.reduce<Box>(
        (all, box) => [
          Math.min(all[0], box[0]),
          Math.min(all[1], box[1]),
          Math.max(all[2], box[2]),
          Math.max(all[3], box[3]),
        ],
        boxes[0] as Box,
      );

/** Where a change is, in A and in B. */
export const boxesOf = ({ boxA, boxB }: Change): Box[] => [boxA, boxB].filter((box) => box !== null);
