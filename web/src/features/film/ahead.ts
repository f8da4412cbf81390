/** Which pictures are fetched before they are asked for. */

/** In the direction of travel, and behind. */
const AHEAD = 12;
const BEHIND = 4;

/** Places from near to far, those in the direction of travel first. */
export function wanted(at: number, forward: boolean): number[] {
  const sign = forward ? 1 : -1;
  const ahead = Array.from({ length: AHEAD }, (_, k) => at + sign * (k + 1));
  const behind = Array.from({ length: BEHIND }, (_, k) => at - sign * (k + 1));
  return [at, ...ahead.slice(0, 2), ...behind.slice(0, 1), ...ahead.slice(2), ...behind.slice(1)];
}
