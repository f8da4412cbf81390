/** Where the page stands on the screen: screen = page × scale + (x, y), in CSS pixels. */
export interface Camera {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

export type Box = readonly [number, number, number, number];

const FURTHEST = 400;

/** The whole box in the middle of a view, with a margin. */
export function fit(box: Box, width: number, height: number, margin = 28): Camera {
  const w = Math.max(box[2] - box[0], 1e-9);
  const h = Math.max(box[3] - box[1], 1e-9);
  const scale = Math.max(Math.min((width - 2 * margin) / w, (height - 2 * margin) / h), 1e-9);
  return { scale, x: width / 2 - ((box[0] + box[2]) / 2) * scale, y: height / 2 - ((box[1] + box[3]) / 2) * scale };
}

/**
 * Closer or further by `factor`, with the point under (px, py) staying where it is. `whole` bounds how far one can go.
 */
export function zoomAt(c: Camera, factor: number, px: number, py: number, whole: Camera): Camera {
  const scale = Math.min(Math.max(c.scale * factor, whole.scale / 8), whole.scale * FURTHEST);
  const k = scale / c.scale;
  return { scale, x: px - (px - c.x) * k, y: py - (py - c.y) * k };
}

export const pan = (c: Camera, dx: number, dy: number): Camera => ({ ...c, x: c.x + dx, y: c.y + dy });

/** A view of a part with its surroundings: near enough to see, far enough to know where it is. */
export function flyTo(box: Box, whole: Camera, width: number, height: number, margin = 0.3): Camera {
  const grown = fit(box, width, height, Math.min(width, height) * margin);
  const scale = Math.min(grown.scale, whole.scale * 12);
  return { scale, x: width / 2 - ((box[0] + box[2]) / 2) * scale, y: height / 2 - ((box[1] + box[3]) / 2) * scale };
}

/** Between two cameras, t from 0 to 1, slow at both ends. */
export function between(from: Camera, to: Camera, t: number): Camera {
  const k = t * t * (3 - 2 * t);
  const scale = from.scale * (to.scale / from.scale) ** k;
  // The page point in the middle travels in a straight line.
  const mix = (p: number, q: number): number => p + (q - p) * k;
  return {
    scale,
    x: mix(from.x / from.scale, to.x / to.scale) * scale,
    y: mix(from.y / from.scale, to.y / to.scale) * scale,
  };
}
