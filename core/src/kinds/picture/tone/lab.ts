/** Colours as people see them: CIELAB (D65) and the difference CIEDE2000 (Sharma, Wu and Dalal 2005). */
import { Tones } from '../../../raster/bitmap.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, atan2, cbrt, cos, exp, max, min, sin, sqrt } = Math;

/**
 * So fine that nothing needs to be interpolated: L* is right to 0.01, a* and b* to 0.06 in the darkest colours, where
 * a byte is a step of 0.3.
 */
const STEPS = 65536;
/** Cube-root part of CIELAB, of k/65536, and a little beyond white, where sums are not exact. */
const root = Float32Array.from({ length: STEPS + 65 }, (_, k) =>
  k / STEPS > 216 / 24389 ? cbrt(min(1, k / STEPS)) : ((24389 / 27) * (k / STEPS) + 16) / 116,
);

const X = STEPS / 0.95047;
const Y = STEPS;
const Z = STEPS / 1.08883;

/** Writes L*, a*, b* of linear red, green and blue (0 to 1) at `at`. */
export function labInto(out: Float32Array, at: number, r: number, g: number, b: number): void {
  const x = root[(0.4124564 * X * r + 0.3575761 * X * g + 0.1804375 * X * b + 0.5) | 0] as number;
  const y = root[(0.2126729 * Y * r + 0.7151522 * Y * g + 0.072175 * Y * b + 0.5) | 0] as number;
  const z = root[(0.0193339 * Z * r + 0.119192 * Z * g + 0.9503041 * Z * b + 0.5) | 0] as number;
  out[at] = 116 * y - 16;
  out[at + 1] = 500 * (x - y);
  out[at + 2] = 200 * (y - z);
}

/** L*, a*, b* of an sRGB colour. */
export function labOf(r: number, g: number, b: number): Float32Array {
  const out = new Float32Array(3);
  const { linear } = Tones;
  labInto(out, 0, linear[r] as number, linear[g] as number, linear[b] as number);
  return out;
}

const POWER = 25 ** 7;
const degree = PI / 180;

/** CIEDE2000 of two colours; 1 is about what a person just notices. */
export function deltaE(l1: number, a1: number, b1: number, l2: number, a2: number, b2: number): number {
  const c1 = sqrt(a1 * a1 + b1 * b1);
  const c2 = sqrt(a2 * a2 + b2 * b2);
  const mean = (c1 + c2) / 2;
  const m2 = mean * mean;
  const m7 = m2 * m2 * m2 * mean;
  const g = 0.5 * (1 - sqrt(m7 / (m7 + POWER)));
  const p1 = a1 * (1 + g);
  const p2 = a2 * (1 + g);
  const q1 = sqrt(p1 * p1 + b1 * b1);
  const q2 = sqrt(p2 * p2 + b2 * b2);
  const dl = l2 - l1;
  const dc = q2 - q1;
  const lm = (l1 + l2) / 2;
  const cm = (q1 + q2) / 2;
  const h1 = q1 === 0 ? 0 : atan2(b1, p1);
  const h2 = q2 === 0 ? 0 : atan2(b2, p2);
  let dh = h2 - h1;
  let hm = (h1 + h2) / 2;
  if (q1 * q2 === 0) {
    dh = 0;
    hm = h1 + h2;
  } else if (abs(dh) > PI) {
    hm += hm < 0 ? PI : -PI;
    dh += dh > 0 ? -2 * PI : 2 * PI;
  }
  const big = 2 * sqrt(q1 * q2) * sin(dh / 2);
  const t =
    1 -
    0.17 * cos(hm - 30 * degree) +
    0.24 * cos(2 * hm) +
    0.32 * cos(3 * hm + 6 * degree) -
    0.2 * cos(4 * hm - 63 * degree);
  const around = (((hm / degree + 360) % 360) - 275) / 25;
  const c7 = cm ** 7;
  const l50 = (lm - 50) * (lm - 50);
  const rt = -2 * sqrt(c7 / (c7 + POWER)) * sin(60 * degree * exp(-around * around));
  const sl = 1 + (0.015 * l50) / sqrt(20 + l50);
  const sc = 1 + 0.045 * cm;
  const sh = 1 + 0.015 * cm * t;
  const x = dl / sl;
  const y = dc / sc;
  const z = big / sh;
  return sqrt(max(0, x * x + y * y + z * z + rt * y * z));
}

const lightParts = Float32Array.from(
  { length: 102 },
  (_, l) => (1 + (0.015 * (l - 50) ** 2) / sqrt(20 + (l - 50) ** 2)) ** -2,
);

/** What a squared difference of lightness counts in a squared CIEDE2000, by L*. */
export const lightPart = (l: number): number => lightParts[l | 0] as number;

/** Squared distance beyond which colours are compared exactly. */
export const FAR = 36;

/**
 * The same for colours that are near to one another, without the terms that depend on the hue: at worst half as much
 * again (strong blues), and many times as fast. Colours further apart than about 6 are compared exactly.
 */
export function nearDeltaE(l1: number, a1: number, b1: number, l2: number, a2: number, b2: number): number {
  const dl = l2 - l1;
  const da = a2 - a1;
  const db = b2 - b1;
  const coloured = da * da + db * db;
  if (dl * dl + coloured > FAR) return deltaE(l1, a1, b1, l2, a2, b2);
  const a = (a1 + a2) / 2;
  const b = (b1 + b2) / 2;
  const square = a * a + b * b;
  const chroma = sqrt(square);
  const dot = a * da + b * db;
  const along = square > 0.0001 ? (dot * dot) / square : 0;
  const sc = 1 + 0.045 * chroma;
  const sh = 1 + 0.015 * chroma;
  const across = coloured - along;
  return sqrt(dl * dl * lightPart((l1 + l2) / 2) + along / (sc * sc) + (across > 0 ? across : 0) / (sh * sh));
}
