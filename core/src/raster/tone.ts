/** What was done to all colours at once: lightness by a curve, colours by a turn and a strength. Found robustly, so that repainted places do not count. */
import { Tones, type Bitmap } from './bitmap.ts';
import { labInto } from './lab.ts';

/** Taken out of their object once: they are called for every pixel. */
const { PI, abs, atan2, ceil, floor, hypot, max, min, round } = Math;
const { isNaN } = Number;

export interface ToneChange {
  /** Mean change of lightness, in L*. */
  readonly lightness: number;
  /** Spread of lightness after ÷ before. */
  readonly contrast: number;
  /** Strength of colours after ÷ before. */
  readonly saturation: number;
  /** Turn of hues, in degrees. */
  readonly hue: number;
  /** Mean shift of a* and b*. */
  readonly cast: readonly [number, number];
}

const KNOTS = 17;

export class Tone {
  /** L* after, at L* of 0, 6.25 … 100 before. */
  private readonly curve: Float32Array;
  private readonly colour: readonly [number, number, number, number, number, number];
  readonly change: ToneChange;

  constructor(curve: Float32Array, colour: readonly [number, number, number, number, number, number], change: ToneChange) {
    this.curve = curve;
    this.colour = colour;
    this.change = change;
  }

  /** Makes A's colour, at `at`, what it is in B. */
  apply(lab: Float32Array, at: number): void {
    const l = min(99.999, max(0, lab[at] as number)) / 6.25, k = l | 0, [m0, m1, m2, m3, m4, m5] = this.colour, x = lab[at + 1] as number, y = lab[at + 2] as number;
    lab[at] = (this.curve[k] as number) + (l - k) * ((this.curve[k + 1] as number) - (this.curve[k] as number));
    lab[at + 1] = m0 * x + m2 * y + m4;
    lab[at + 2] = m1 * x + m3 * y + m5;
  }
}

const SAMPLES = 20_000;

const median = (list: number[]): number => list.sort((p, q) => p - q)[list.length >> 1] ?? 0;

/** Undefined where colours as a whole are as they were. */
export function toneBetween(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): Tone | undefined {
  const pairs = sampled(a, b, covered), n = pairs.length / 6;
  if (n < 500) return undefined;
  const at = (k: number, c: number): number => pairs[6 * k + c] as number, errors = new Float32Array(n), before = new Float32Array(n);
  let equal = 0;
  for (let k = 0; k < n; k++) {
    before[k] = abs(at(k, 0) - at(k, 3)) + abs(at(k, 1) - at(k, 4)) + abs(at(k, 2) - at(k, 5));
    if ((before[k] as number) < 0.02) equal++;
  }
  // An edit of all colours leaves hardly any as it was, and is more than noise.
  const was = median([...before]);
  if (equal > 0.3 * n || was <= 0.8) return undefined;
  const curve = curveOf(pairs, n), flat = curve.every((v, k) => abs(v - k * 6.25) < 0.4), colour = colourOf(pairs, n);
  const tone = new Tone(curve, colour, changeOf(pairs, n, curve, colour)), lab = new Float32Array(3);
  for (let k = 0; k < n; k++) {
    lab.set([at(k, 0), at(k, 1), at(k, 2)]);
    tone.apply(lab, 0);
    errors[k] = abs((lab[0] as number) - at(k, 3)) + abs((lab[1] as number) - at(k, 4)) + abs((lab[2] as number) - at(k, 5));
  }
  const is = median([...errors]), { change } = tone;
  const any = !flat || abs(change.saturation - 1) > 0.03 || abs(change.hue) > 1.5 || hypot(...change.cast) > 0.5;
  return any && is < 0.7 * was ? tone : undefined;
}

/** L*, a*, b* before and after of means of 4 × 4 pixels, spread evenly. */
function sampled(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): Float32Array {
  const { width, height } = b, columns = width >> 2, rows = height >> 2, stride = max(1, floor((columns * rows) / SAMPLES)), out = new Float32Array(6 * ceil((columns * rows) / stride)), { linear } = Tones;
  let used = 0;
  for (let cell = 0; cell < columns * rows; cell += stride) {
    const x = (cell % columns) * 4, y = floor(cell / columns) * 4;
    if (covered && !(covered[y * width + x] && covered[(y + 3) * width + x + 3])) continue;
    for (const [side, { data }] of [a, b].entries()) {
      let red = 0, green = 0, blue = 0;
      for (let dy = 0; dy < 4; dy++) {
        for (let dx = 0; dx < 4; dx++) {
          const p = 4 * ((y + dy) * width + x + dx), alpha = (data[p + 3] as number) / 255;
          red += 1 - alpha * (1 - (linear[data[p] as number] as number));
          green += 1 - alpha * (1 - (linear[data[p + 1] as number] as number));
          blue += 1 - alpha * (1 - (linear[data[p + 2] as number] as number));
        }
      }
      labInto(out, used + 3 * side, red / 16, green / 16, blue / 16);
    }
    used += 6;
  }
  return out.subarray(0, used);
}

/** Medians of L* after by L* before, made rising, with gaps filled along straight lines. */
function curveOf(pairs: Float32Array, n: number): Float32Array {
  const lists: number[][] = Array.from({ length: KNOTS }, () => []), out = new Float32Array(KNOTS + 1).fill(NaN);
  for (let k = 0; k < n; k++) {
    const l = pairs[6 * k] as number, knot = round(l / 6.25);
    // The slope within a bin is that of no change.
    if (knot < KNOTS) lists[knot]?.push((pairs[6 * k + 3] as number) - (l - knot * 6.25));
  }
  const known = lists.map((list) => (list.length >= 25 ? median(list) : NaN)), first = known.findIndex((v) => !isNaN(v)), last = known.findLastIndex((v) => !isNaN(v));
  if (first < 0) return Float32Array.from({ length: KNOTS + 1 }, (_, k) => k * 6.25);
  for (let k = 0; k < KNOTS; k++) {
    if (!isNaN(known[k])) out[k] = known[k] as number;
    else if (k < first) out[k] = (known[first] as number) * (first ? k / first : 1);
    else if (k > last) out[k] = (known[last] as number) + ((100 - (known[last] as number)) * (k - last)) / max(1, KNOTS - 1 - last);
    else {
      let from = k, to = k;
      while (isNaN(known[from])) from--;
      while (isNaN(known[to])) to++;
      out[k] = (known[from] as number) + (((known[to] as number) - (known[from] as number)) * (k - from)) / (to - from);
    }
  }
  for (let k = 1; k < KNOTS; k++) out[k] = max(out[k] as number, out[k - 1] as number);
  out[KNOTS] = out[KNOTS - 1] as number;
  return out;
}

/** A turn, a strength and a shift of a* and b*, by least squares with robust weights. */
function colourOf(pairs: Float32Array, n: number): readonly [number, number, number, number, number, number] {
  let c = 1, s = 0, tx = 0, ty = 0;
  for (let round = 0; round < 8; round++) {
    const errors = Array.from({ length: n }, (_, k) => hypot(c * (pairs[6 * k + 1] as number) - s * (pairs[6 * k + 2] as number) + tx - (pairs[6 * k + 4] as number), s * (pairs[6 * k + 1] as number) + c * (pairs[6 * k + 2] as number) + ty - (pairs[6 * k + 5] as number)));
    const bound = round ? 5 * max(0.3, median([...errors])) : Infinity;
    let w = 0, mx = 0, my = 0, nx = 0, ny = 0;
    const weight = (k: number): number => (bound === Infinity ? 1 : (errors[k] as number) >= bound ? 0 : (1 - ((errors[k] as number) / bound) ** 2) ** 2);
    for (let k = 0; k < n; k++) {
      const v = weight(k);
      w += v;
      mx += v * (pairs[6 * k + 1] as number);
      my += v * (pairs[6 * k + 2] as number);
      nx += v * (pairs[6 * k + 4] as number);
      ny += v * (pairs[6 * k + 5] as number);
    }
    if (!w) break;
    [mx, my, nx, ny] = [mx / w, my / w, nx / w, ny / w];
    let dot = 0, cross = 0, square = 0;
    for (let k = 0; k < n; k++) {
      const v = weight(k), x = (pairs[6 * k + 1] as number) - mx, y = (pairs[6 * k + 2] as number) - my, p = (pairs[6 * k + 4] as number) - nx, q = (pairs[6 * k + 5] as number) - ny;
      dot += v * (x * p + y * q);
      cross += v * (x * q - y * p);
      square += v * (x * x + y * y);
    }
    // Pictures without colour have none to turn.
    if (square / w > 4) [c, s] = [dot / square, cross / square];
    [tx, ty] = [nx - c * mx + s * my, ny - s * mx - c * my];
  }
  return [c, s, -s, c, tx, ty];
}

function changeOf(pairs: Float32Array, n: number, curve: Float32Array, [c, s, , , tx, ty]: readonly [number, number, number, number, number, number]): ToneChange {
  const lights = Array.from({ length: n }, (_, k) => pairs[6 * k] as number).sort((p, q) => p - q), at = (share: number): number => lights[floor(share * (n - 1))] as number;
  const through = (l: number): number => {
    const t = min(99.999, max(0, l)) / 6.25, k = t | 0;
    return (curve[k] as number) + (t - k) * ((curve[k + 1] as number) - (curve[k] as number));
  };
  const low = at(0.1), high = at(0.9), mean = lights.reduce((sum, l) => sum + through(l) - l, 0) / n, spread = high - low;
  return { lightness: mean, contrast: spread > 2 ? (through(high) - through(low)) / spread : 1, saturation: hypot(c, s), hue: (atan2(s, c) * 180) / PI, cast: [tx, ty] };
}
