/** Pages of a document that were turned by quarters: what is on them is compared as it stands now. */
import { boxAround, centreX, centreY, type Box } from '../../geometry/box.ts';
import { multiply, type Matrix } from '../../geometry/matrix.ts';
import { wordsOf } from '../../match/traits.ts';
import type { Design, Page, Part } from '../../model/design.ts';

const QUARTERS = [90, 180, 270] as const;
export type Quarter = (typeof QUARTERS)[number];

/** Parts of a page that are looked at. */
const SAMPLE = 300;
/** Share of them that must stand where the turn puts them, and how many more than without it. */
const LEAST = 0.6;
const BETTER = 0.3;
/** Distance in points within which a part stands where it is expected. */
const REACH = 3;

/** A with its pages turned as those of B are. Pages correspond by their index. */
export function turnedLike(a: Design, b: Design): Design {
  const partsOf = (design: Design): Part[][] => {
    const pages = design.pages.map((): Part[] => []);
    for (const part of design.parts) if (part.box) pages[part.page]?.push(part);
    return pages;
  };
  const [partsA, partsB] = [partsOf(a), partsOf(b)];
  const turns = b.pages.map((page, k) => {
    const before = a.pages[k];
    return before && before.place !== -1 ? turnBetween(before, partsA[k] ?? [], page, partsB[k] ?? []) : undefined;
  });
  if (turns.every((turn) => turn === undefined)) return a;
  return turnedBy(a, turns);
}

function turnBetween(a: Page, partsA: readonly Part[], b: Page, partsB: readonly Part[]): Quarter | undefined {
  const step = Math.max(1, Math.floor(partsA.length / SAMPLE));
  const some = partsA.filter((_, k) => k % step === 0);
  if (some.length === 0) return undefined;
  const places = new Map<string, (readonly [number, number])[]>();
  for (const part of partsB) {
    const box = part.box as Box;
    const print = printOf(part);
    places.set(print, [...(places.get(print) ?? []), [centreX(box), centreY(box)]]);
  }
  const stands = (part: Part, matrix: Matrix): boolean => {
    const box = boxAround(part.box as Box, matrix);
    const [x, y] = [centreX(box), centreY(box)];
    return (places.get(printOf(part)) ?? []).some(([u, v]) => Math.abs(u - x) <= REACH && Math.abs(v - y) <= REACH);
  };
  const shareFor = (matrix: Matrix): number => some.filter((part) => stands(part, matrix)).length / some.length;
  const still = shareFor([1, 0, 0, 1, 0, 0]);
  if (still > 1 - BETTER) return undefined;
  const fits = QUARTERS.filter((quarter) => isShapedAlike(boxAround(a.box, quarterTurn(a.box, quarter)), b.box));
  const best = fits
    .map((quarter) => ({ quarter, share: shareFor(quarterTurn(a.box, quarter)) }))
    .sort((p, q) => q.share - p.share)[0];
  return best && best.share >= LEAST && best.share >= still + BETTER ? best.quarter : undefined;
}

/** What a part is, wherever it stands. */
const printOf = (part: Part): string => `${part.kind} ${wordsOf(part)} ${String(part.props['source'] ?? '')}`;

const isShapedAlike = (p: Box, q: Box): boolean =>
  Math.abs(p[2] - p[0] - (q[2] - q[0])) <= REACH && Math.abs(p[3] - p[1] - (q[3] - q[1])) <= REACH;

/** Clockwise on a page whose y goes down; the turned page begins at the same corner. */
function quarterTurn([x0, y0, x1, y1]: Box, quarter: Quarter): Matrix {
  const [width, height] = [x1 - x0, y1 - y0];
  if (quarter === 90) return [0, 1, -1, 0, x0 + height + y0, y0 - x0];
  if (quarter === 180) return [-1, 0, 0, -1, x0 + x1, y0 + y1];
  return [0, -1, 1, 0, x0 - y0, y0 + width + x0];
}

function turnedBy(a: Design, turns: readonly (Quarter | undefined)[]): Design {
  const points = Float64Array.from(a.geometry.points);
  const { starts } = a.geometry;
  const parts = a.parts.map((part): Part => {
    const turn = turns[part.page];
    const page = a.pages[part.page];
    if (turn === undefined || !page) return part;
    const matrix = quarterTurn(page.box, turn);
    const from = starts[part.firstSubpath] ?? 0;
    const to = starts[part.firstSubpath + part.subpaths] ?? from;
    for (let p = from; p < to; p++) {
      const [x, y] = [points[2 * p] as number, points[2 * p + 1] as number];
      points[2 * p] = matrix[0] * x + matrix[2] * y + matrix[4];
      points[2 * p + 1] = matrix[1] * x + matrix[3] * y + matrix[5];
    }
    return {
      ...part,
      transform: multiply(matrix, part.transform),
      box: part.box && boxAround(part.box, matrix),
    };
  });
  const pages = a.pages.map((page, k): Page => {
    const turned = turns[k];
    return turned === undefined ? page : { ...page, box: boxAround(page.box, quarterTurn(page.box, turned)), turned };
  });
  return { ...a, geometry: { ...a.geometry, points }, parts, pages };
}
