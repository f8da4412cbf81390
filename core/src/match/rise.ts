/** Height: the third dimension of parts that stand in space. */
import type { Part } from '../model/design.ts';

const flat = [0, 0] as const;

/** Whether two parts are as high above the ground, from below to above. */
export const risesAgree = (a: Part, b: Part, reach: number): boolean => {
  const [low, high] = a.space?.rise ?? flat;
  const [otherLow, otherHigh] = b.space?.rise ?? flat;
  return Math.abs(low - otherLow) <= reach && Math.abs(high - otherHigh) <= reach;
};

interface RiseBetween {
  /** From the middle of one to that of the other. */
  readonly apart: number;
  /** Between the upper end of the lower one and the lower end of the other; 0 where they overlap. */
  readonly gap: number;
  /** Both heights in one. */
  readonly extent: number;
  readonly difference: number;
}

/** How two parts stand above one another; all 0 where a design is flat. */
export function riseBetween(a: Part, b: Part): RiseBetween {
  const [low, high] = a.space?.rise ?? flat;
  const [otherLow, otherHigh] = b.space?.rise ?? flat;
  const heights = [high - low, otherHigh - otherLow] as const;
  return {
    apart: Math.abs(low + high - otherLow - otherHigh) / 2,
    gap: Math.max(0, low - otherHigh, otherLow - high),
    extent: heights[0] + heights[1],
    difference: Math.abs(heights[0] - heights[1]),
  };
}
