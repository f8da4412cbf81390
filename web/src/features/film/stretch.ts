/** Which versions are played, and where among them one stands. */
import { inSittings } from '@ovrel/core/sittings';
import type { Mark } from '../rail/layout.ts';

/** What is asked for of a line. */
interface Asked {
  /** Each save of a sitting, and not only its last. */
  readonly eachSave: boolean;
  /** Milliseconds without a save that end a sitting. */
  readonly pause: number;
  /** Ids of the ends, in either order; absent: the whole line. */
  readonly ends?: readonly [string, string];
}

/** Versions that are played, oldest first. An end that is not on the line is its beginning. */
export function stretchOf(marks: readonly Mark[], { eachSave, pause, ends }: Asked): readonly Mark[] {
  const between = ends ? betweenEnds(marks, ends) : marks;
  if (eachSave) return between;
  return inSittings(between, pause).flatMap((sitting) => sitting.at(-1) ?? []);
}

function betweenEnds(marks: readonly Mark[], ends: readonly [string, string]): readonly Mark[] {
  const places = ends.map((end) =>
    Math.max(
      0,
      marks.findIndex(({ id }) => id === end),
    ),
  );
  return marks.slice(Math.min(...places), Math.max(...places) + 1);
}

/** The place of a version, or of what stands for it: the end of its sitting. */
export function nearest(stretch: readonly Mark[], id: string, marks: readonly Mark[]): number {
  const there = stretch.findIndex((mark) => mark.id === id);
  if (there >= 0) return there;
  const number = marks.find((mark) => mark.id === id)?.number ?? 0;
  const after = stretch.findIndex((mark) => mark.number >= number);
  return after >= 0 ? after : stretch.length - 1;
}
