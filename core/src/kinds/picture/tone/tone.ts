/**
 * What was done to all colours at once: lightness by a curve, colours by a turn and a strength. Found robustly, so
 * that repainted places do not count.
 */
import { Tones, type Bitmap } from '../../../raster/bitmap.ts';
import { channelsBetween, type Channels } from './channels.ts';
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
  /** Where channel by channel tells it better: `through` then makes A's colours into B's, and `apply` is not asked. */
  readonly channels: Channels | undefined;

  constructor(
    curve: Float32Array,
    colour: readonly [number, number, number, number, number, number],
    change: ToneChange,
    channels?: Channels,
  ) {
    this.curve = curve;
    this.colour = colour;
    this.change = change;
    this.channels = channels;
  }

  /** Makes A's colour, at `at`, what it is in B. */
  apply(lab: Float32Array, at: number): void {
    const l = min(99.999, max(0, lab[at] as number)) / 6.25;
    const k = l | 0;
    const [m0, m1, m2, m3, m4, m5] = this.colour;
    const x = lab[at + 1] as number;
    const y = lab[at + 2] as number;
    lab[at] = (this.curve[k] as number) + (l - k) * ((this.curve[k + 1] as number) - (this.curve[k] as number));
    lab[at + 1] = m0 * x + m2 * y + m4;
    lab[at + 2] = m1 * x + m3 * y + m5;
  }
}

const SAMPLES = 20_000;

const median = (list: number[]): number => list.sort((p, q) => p - q)[list.length >> 1] ?? 0;

/** Undefined where colours as a whole are as they were, or have nothing in common. */
export function toneBetween(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): Tone | undefined {
  const { bytes, steps } = sampled(a, b, covered);
  const n = bytes.length / 6;
  if (n < FEWEST) return undefined;
  const pairs = labsOf(bytes);
  const at = (k: number, c: number): number => pairs[6 * k + c] as number;
  const before = Array.from(
    { length: n },
    (_, k) => abs(at(k, 0) - at(k, 3)) + abs(at(k, 1) - at(k, 4)) + abs(at(k, 2) - at(k, 5)),
  );
  const equal = before.filter((v) => v < 0.02).length;
  const was = median(before);
  // An edit of all colours leaves hardly any as it was, and is more than noise.
  if (equal > 0.3 * n || was <= 0.8) return undefined;
  const curve = curveOf(pairs, n);
  const flat = curve.every((v, k) => abs(v - k * 6.25) < 0.4);
  const colour = colourOf(pairs, n);
  const change = changeOf(pairs, n, curve, colour);
  const lab = new Float32Array(3);
  const model = new Tone(curve, colour, change);
  const channels = channelsBetween(calmest(bytes, steps));
  const left = (make: (k: number) => void): number[] =>
    Array.from({ length: n }, (_, k) => {
      make(k);
      return (
        abs((lab[0] as number) - at(k, 3)) + abs((lab[1] as number) - at(k, 4)) + abs((lab[2] as number) - at(k, 5))
      );
    });
  const byModel = left((k) => {
    lab.set([at(k, 0), at(k, 1), at(k, 2)]);
    model.apply(lab, 0);
  });
  const byChannels = left((k) => {
    const [red, green, blue] = [0, 1, 2].map((c) => channels[c]?.[round(bytes[6 * k + c] as number)] as number) as [
      number,
      number,
      number,
    ];
    labInto(lab, 0, Tones.linear[red] as number, Tones.linear[green] as number, Tones.linear[blue] as number);
  });
  // Rare colours count, too, but those that were painted over do not decide.
  const mean = (list: readonly number[]): number => list.reduce((sum, v) => sum + min(20, v), 0) / n;
  const better = mean(byChannels) < 1.1 * mean(byModel) + 0.05;
  const is = median(better ? byChannels : byModel);
  const any = !flat || abs(change.saturation - 1) > 0.03 || abs(change.hue) > 1.5 || hypot(...change.cast) > 0.5;
  if (!any || is >= 0.7 * was || is >= 0.5 * max(2, unlikeness(pairs, n))) return undefined;
  return better ? new Tone(curve, colour, change, channels) : model;
}

/** Fewer samples tell nothing. */
const FEWEST = 500;

/** How far B's colours are from their middle: what explains no more of them than that explains nothing. */
function unlikeness(pairs: Float32Array, n: number): number {
  const middle = [3, 4, 5].map((c) => median(Array.from({ length: n }, (_, k) => pairs[6 * k + c] as number)));
  return median(
    Array.from({ length: n }, (_, k) =>
      middle.reduce((sum, m, c) => sum + abs((pairs[6 * k + 3 + c] as number) - m), 0),
    ),
  );
}

/**
 * Share of the samples that are calm enough to tell what became of a colour: means across edges are mixtures, cut off
 * or not.
 */
const CALM = 0.6;

function calmest(bytes: Float32Array, steps: Uint8Array): Float32Array {
  const bound = Uint8Array.from(steps).sort()[floor(CALM * (steps.length - 1))] as number;
  const out = new Float32Array(bytes.length);
  let used = 0;
  for (let k = 0; k < steps.length; k++) {
    if ((steps[k] as number) > bound) continue;
    out.set(bytes.subarray(6 * k, 6 * k + 6), used);
    used += 6;
  }
  return out.subarray(0, used);
}

/**
 * `bytes`: red, green and blue, on white, before and after: means of 4 × 4 pixels, spread evenly. `steps`: the largest
 * step of green in them before.
 */
function sampled(a: Bitmap, b: Bitmap, covered: Uint8Array | undefined): { bytes: Float32Array; steps: Uint8Array } {
  const { width, height } = b;
  const columns = width >> 2;
  const rows = height >> 2;
  const stride = max(1, floor((columns * rows) / SAMPLES));
  const out = new Float32Array(6 * ceil((columns * rows) / stride));
  const steps = new Uint8Array(out.length / 6);
  let used = 0;
  for (let cell = 0; cell < columns * rows; cell += stride) {
    const x = (cell % columns) * 4;
    const y = floor(cell / columns) * 4;
    if (covered && !(covered[y * width + x] && covered[(y + 3) * width + x + 3])) continue;
    for (const { data } of [a, b]) {
      let red = 0;
      let green = 0;
      let blue = 0;
      let low = 255;
      let high = 0;
      for (let dy = 0; dy < 4; dy++) {
        for (let dx = 0; dx < 4; dx++) {
          const p = 4 * ((y + dy) * width + x + dx);
          const alpha = (data[p + 3] as number) / 255;
          low = min(low, data[p + 1] as number);
          high = max(high, data[p + 1] as number);
          red += 255 - alpha * (255 - (data[p] as number));
          green += 255 - alpha * (255 - (data[p + 1] as number));
          blue += 255 - alpha * (255 - (data[p + 2] as number));
        }
      }
      out[used] = red / 16;
      out[used + 1] = green / 16;
      out[used + 2] = blue / 16;
      if (data === a.data) steps[used / 6] = high - low;
      used += 3;
    }
  }
  return { bytes: out.subarray(0, used), steps: steps.subarray(0, used / 6) };
}

/** The same as L*, a*, b*. */
function labsOf(bytes: Float32Array): Float32Array {
  const out = new Float32Array(bytes.length);
  const light = (v: number): number => {
    const k = v | 0;
    const from = Tones.linear[k] as number;
    return from + (v - k) * ((Tones.linear[min(255, k + 1)] as number) - from);
  };
  for (let k = 0; k < bytes.length; k += 3)
    labInto(out, k, light(bytes[k] as number), light(bytes[k + 1] as number), light(bytes[k + 2] as number));
  return out;
}

/** Medians of L* after by L* before, made rising, with gaps filled along straight lines. */
function curveOf(pairs: Float32Array, n: number): Float32Array {
  const lists: number[][] = Array.from({ length: KNOTS }, () => []);
  const out = new Float32Array(KNOTS + 1).fill(NaN);
  for (let k = 0; k < n; k++) {
    const l = pairs[6 * k] as number;
    const knot = round(l / 6.25);
    // The slope within a bin is that of no change.
    if (knot < KNOTS) lists[knot]?.push((pairs[6 * k + 3] as number) - (l - knot * 6.25));
  }
  const known = lists.map((list) => (list.length >= 25 ? median(list) : NaN));
  const first = known.findIndex((v) => !isNaN(v));
  const last = known.findLastIndex((v) => !isNaN(v));
  if (first < 0) return Float32Array.from({ length: KNOTS + 1 }, (_, k) => k * 6.25);
  for (let k = 0; k < KNOTS; k++) {
    if (!isNaN(known[k])) out[k] = known[k] as number;
    else if (k < first) out[k] = (known[first] as number) * (first ? k / first : 1);
    else if (k > last)
      out[k] = (known[last] as number) + ((100 - (known[last] as number)) * (k - last)) / max(1, KNOTS - 1 - last);
    else {
      let from = k;
      let to = k;
      while (isNaN(known[from])) from--;
      while (isNaN(known[to])) to++;
      out[k] = (known[from] as number) + (((known[to] as number) - (known[from] as number)) * (k - from)) / (to - from);
    }
  }
  for (let k = 1; k < KNOTS; k++) out[k] = max(out[k] as number, out[k - 1] as number);
  out[KNOTS] = out[KNOTS - 1] as number;
  return out;
}

/** Further than any two colours. */
const UNBOUND = 1e6;

/** A turn, a strength and a shift of a* and b*, by least squares with robust weights. */
function colourOf(pairs: Float32Array, n: number): readonly [number, number, number, number, number, number] {
  let c = 1;
  let s = 0;
  let tx = 0;
  let ty = 0;
  for (let round = 0; round < 8; round++) {
    const errors = Array.from({ length: n }, (_, k) =>
      hypot(
        c * (pairs[6 * k + 1] as number) - s * (pairs[6 * k + 2] as number) + tx - (pairs[6 * k + 4] as number),
        s * (pairs[6 * k + 1] as number) + c * (pairs[6 * k + 2] as number) + ty - (pairs[6 * k + 5] as number),
      ),
    );
    const bound = round ? 5 * max(0.3, median([...errors])) : UNBOUND;
    let w = 0;
    let mx = 0;
    let my = 0;
    let nx = 0;
    let ny = 0;
    const weight = (k: number): number => {
      if (bound === UNBOUND) return 1;
      if ((errors[k] as number) >= bound) return 0;
      return (1 - ((errors[k] as number) / bound) ** 2) ** 2;
    };
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
    let dot = 0;
    let cross = 0;
    let square = 0;
    for (let k = 0; k < n; k++) {
      const v = weight(k);
      const x = (pairs[6 * k + 1] as number) - mx;
      const y = (pairs[6 * k + 2] as number) - my;
      const p = (pairs[6 * k + 4] as number) - nx;
      const q = (pairs[6 * k + 5] as number) - ny;
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

function changeOf(
  pairs: Float32Array,
  n: number,
  curve: Float32Array,
  [c, s, , , tx, ty]: readonly [number, number, number, number, number, number],
): ToneChange {
  const lights = Array.from({ length: n }, (_, k) => pairs[6 * k] as number).sort((p, q) => p - q);
  const at = (share: number): number => lights[floor(share * (n - 1))] as number;
  const through = (l: number): number => {
    const t = min(99.999, max(0, l)) / 6.25;
    const k = t | 0;
    return (curve[k] as number) + (t - k) * ((curve[k + 1] as number) - (curve[k] as number));
  };
  const low = at(0.1);
  const high = at(0.9);
  const mean = lights.reduce((sum, l) => sum + through(l) - l, 0) / n;
  const spread = high - low;
  return {
    lightness: mean,
    contrast: spread > 2 ? (through(high) - through(low)) / spread : 1,
    saturation: hypot(c, s),
    hue: (atan2(s, c) * 180) / PI,
    cast: [tx, ty],
  };
}
