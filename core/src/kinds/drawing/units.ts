import type { Registration } from '../../match/registration.ts';
import type { Design, Page } from '../../model/design.ts';

/** How large a unit of the design is on paper or screen; undefined where the file does not say. */
function millimetresOf({ box, unitMillimetres, frame }: Page): number | undefined {
  return unitMillimetres ?? (frame && frame.size[0] / (box[2] - box[0]));
}

/** True where the drawing's size changed by just what its unit did. */
export function unitsExplain(a: Design, b: Design, { scale, turn }: Registration): boolean {
  const [before, after] = [a.pages[0], b.pages[0]];
  const from = before && millimetresOf(before);
  const to = after && millimetresOf(after);
  return (
    from !== undefined &&
    to !== undefined &&
    from !== to &&
    Math.abs(turn) < 1e-6 &&
    Math.abs(scale / (from / to) - 1) < 1e-4
  );
}

/** Sizes are rounded when they are written. */
const isAlike = (p: number, q: number): boolean => Math.abs(p - q) <= 1e-3 * Math.max(Math.abs(p), Math.abs(q));

/** The one page is shown as large as before, whatever its size is written in. */
export function isShownAlike(a: Design, b: Design): boolean {
  const [before, after] = [a.pages[0]?.frame?.size, b.pages[0]?.frame?.size];
  return before !== undefined && after !== undefined && before.every((v, k) => isAlike(v, after[k] ?? 0));
}

/** By how much the units of the one page went, where it is shown as large as before; 1 for not at all. */
export function unitsRatio(a: Design, b: Design): number {
  const [before, after] = [a.pages[0]?.box, b.pages[0]?.box];
  if (!before || !after || !isShownAlike(a, b)) return 1;
  const across = (after[2] - after[0]) / (before[2] - before[0]);
  const down = (after[3] - after[1]) / (before[3] - before[1]);
  return isAlike(across, down) && !isAlike(across, 1) ? across : 1;
}
