/** Where one looks from: round a point, from a distance. z is up. Pure. */

export type Point = readonly [x: number, y: number, z: number];
/** Lowest and highest x, y and z. */
export type Box3 = readonly [x0: number, y0: number, z0: number, x1: number, y1: number, z1: number];

export interface Orbit {
  readonly target: Point;
  readonly distance: number;
  /** Degrees round z: 0 looks from the front, along y; 90 from the right. */
  readonly turn: number;
  /** Degrees above the ground. */
  readonly rise: number;
}

/** Angle of view, in degrees from below to above. */
export const FIELD = 35;
/** Straight from above there is no right and left. */
const STEEPEST = 89.9;
const MARGIN = 1.15;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** From the target towards the eye, of length 1. */
export function directionOf({ turn, rise }: Orbit): Point {
  const [t, r] = [radians(turn), radians(rise)];
  return [Math.sin(t) * Math.cos(r), -Math.cos(t) * Math.cos(r), Math.sin(r)];
}

export function eyeOf(orbit: Orbit): Point {
  const [dx, dy, dz] = directionOf(orbit);
  const [x, y, z] = orbit.target;
  return [x + dx * orbit.distance, y + dy * orbit.distance, z + dz * orbit.distance];
}

export const standardViews = [
  { id: 'corner', name: 'Corner', turn: 36, rise: 28 },
  { id: 'front', name: 'Front', turn: 0, rise: 0 },
  { id: 'right', name: 'Right', turn: 90, rise: 0 },
  { id: 'back', name: 'Back', turn: 180, rise: 0 },
  { id: 'left', name: 'Left', turn: 270, rise: 0 },
  { id: 'above', name: 'Above', turn: 0, rise: STEEPEST },
  { id: 'below', name: 'Below', turn: 0, rise: -STEEPEST },
] as const;

/** All of a box in view, from the direction in which one looks already. `aspect`: width by height. */
export function fitted(box: Box3, { turn, rise }: Pick<Orbit, 'turn' | 'rise'>, aspect: number): Orbit {
  const [x0, y0, z0, x1, y1, z1] = box;
  const radius = Math.hypot(x1 - x0, y1 - y0, z1 - z0) / 2 || 1;
  const half = radians(FIELD / 2);
  const narrow = Math.min(half, Math.atan(Math.tan(half) * aspect));
  return {
    target: [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2],
    distance: (radius / Math.sin(narrow)) * MARGIN,
    turn,
    rise,
  };
}

export const turned = (orbit: Orbit, turn: number, rise: number): Orbit => ({
  ...orbit,
  turn: (orbit.turn + turn + 360) % 360,
  rise: Math.min(STEEPEST, Math.max(-STEEPEST, orbit.rise + rise)),
});

/** More than 1 goes further away. */
export const zoomed = (orbit: Orbit, factor: number): Orbit => ({ ...orbit, distance: orbit.distance * factor });

/** By pixels of a view that is so many pixels high. */
export function panned(orbit: Orbit, right: number, up: number, height: number): Orbit {
  const size = (2 * orbit.distance * Math.tan(radians(FIELD / 2))) / height;
  const [t, r] = [radians(orbit.turn), radians(orbit.rise)];
  const rightwards: Point = [Math.cos(t), Math.sin(t), 0];
  const upwards: Point = [-Math.sin(t) * Math.sin(r), Math.cos(t) * Math.sin(r), Math.cos(r)];
  const along = (k: 0 | 1 | 2): number => orbit.target[k] - size * (right * rightwards[k] - up * upwards[k]);
  return { ...orbit, target: [along(0), along(1), along(2)] };
}
