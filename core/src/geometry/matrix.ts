/** Affine map (x, y) → (a·x + c·y + e, b·x + d·y + f), as in SVG 2 §8.5. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const identity: Matrix = [1, 0, 0, 1, 0, 0];

export const shift = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];

/** The map that applies `n` first, then `m`. */
export const multiply = (m: Matrix, n: Matrix): Matrix => {
  if (m === identity) return n;
  if (n === identity) return m;
  return [
    m[0] * n[0] + m[2] * n[1],
    m[1] * n[0] + m[3] * n[1],
    m[0] * n[2] + m[2] * n[3],
    m[1] * n[2] + m[3] * n[3],
    m[0] * n[4] + m[2] * n[5] + m[4],
    m[1] * n[4] + m[3] * n[5] + m[5],
  ];
};

export const applyX = (m: Matrix, x: number, y: number): number => m[0] * x + m[2] * y + m[4];
export const applyY = (m: Matrix, x: number, y: number): number => m[1] * x + m[3] * y + m[5];

/** Mean factor by which lengths grow. */
export const scaleOf = (m: Matrix): number => Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]));

/** Turn of the x axis in degrees, −180 to 180. */
export const angleOf = (m: Matrix): number => (Math.atan2(m[1], m[0]) * 180) / Math.PI;

const number = /[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi;

/** Reads an SVG transform list; unknown or broken functions are left out and reported through `onBad`. */
export function parseTransform(text: string, onBad?: (what: string) => void): Matrix {
  let m: Matrix = identity;
  const call = /([a-zA-Z]+)\s*\(([^)]*)\)/g;
  for (let hit = call.exec(text); hit; hit = call.exec(text)) {
    const v = (hit[2]?.match(number) ?? []).map(Number);
    const next = transformFunction(hit[1] ?? '', v);
    if (!next || next.some((x) => !Number.isFinite(x))) onBad?.(hit[0]);
    else m = multiply(m, next);
  }
  return m;
}

function transformFunction(name: string, v: number[]): Matrix | undefined {
  const [p = 0, q, r] = v;
  const radians = (p * Math.PI) / 180;
  switch (name) {
    case 'matrix':
      return v.length === 6 ? (v as unknown as Matrix) : undefined;
    case 'translate':
      return v.length ? [1, 0, 0, 1, p, q ?? 0] : undefined;
    case 'scale':
      return v.length ? [p, 0, 0, q ?? p, 0, 0] : undefined;
    case 'rotate': {
      const c = Math.cos(radians);
      const s = Math.sin(radians);
      const x = q ?? 0;
      const y = r ?? 0;
      return v.length ? [c, s, -s, c, x - c * x + s * y, y - s * x - c * y] : undefined;
    }
    case 'skewX':
      return v.length ? [1, 0, Math.tan(radians), 1, 0, 0] : undefined;
    case 'skewY':
      return v.length ? [1, Math.tan(radians), 0, 1, 0, 0] : undefined;
    default:
      return undefined;
  }
}

/** Undoes a transform; undefined for one that flattens. */
export function inverse(m: Matrix): Matrix | undefined {
  const d = m[0] * m[3] - m[1] * m[2];
  if (!(Math.abs(d) > 1e-12)) return undefined;
  const [a, b, c, e] = [m[3] / d, -m[1] / d, -m[2] / d, m[0] / d];
  return [a, b, c, e, -(a * m[4] + c * m[5]), -(b * m[4] + e * m[5])];
}
