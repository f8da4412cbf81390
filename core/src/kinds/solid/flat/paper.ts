/** Lines on paper, none of which lies over another: what is drawn first stays. */
import type { Line } from './line.ts';

/** Lines of directions and places that differ by less lie in one line: a share of a turn, and of the sheet. */
const DIRECTION = 1e-5;
const PLACE = 2e-5;

interface Stretch {
  from: number;
  to: number;
  readonly owner: string;
}

interface Ray {
  /** Along it, and where it passes the origin. */
  readonly along: readonly [number, number];
  readonly offset: number;
  readonly stretches: Stretch[];
}

export class Paper {
  private readonly rays = new Map<string, Ray>();
  private readonly grain: number;

  /** `size` is that of the sheet. */
  constructor(size: number) {
    this.grain = size * PLACE;
  }

  /** Draws what of a line is not there yet. */
  draw(owner: string, [x0, y0, x1, y1]: Line): void {
    const length = Math.hypot(x1 - x0, y1 - y0);
    if (length <= this.grain) return;
    const ray = this.rayOf((x1 - x0) / length, (y1 - y0) / length, x0, y0);
    const on = (x: number, y: number): number => x * ray.along[0] + y * ray.along[1];
    const ends = [on(x0, y0), on(x1, y1)].sort((p, q) => p - q);
    let free = [{ from: ends[0] as number, to: ends[1] as number }];
    for (const { from, to } of ray.stretches)
      free = free.flatMap((one) =>
        [
          { from: one.from, to: Math.min(one.to, from) },
          { from: Math.max(one.from, to), to: one.to },
        ].filter((rest) => rest.to - rest.from > this.grain),
      );
    for (const { from, to } of free) ray.stretches.push({ from, to, owner });
  }

  /** By owner; stretches of one owner that meet are one line. */
  lines(): ReadonlyMap<string, readonly Line[]> {
    const out = new Map<string, Line[]>();
    for (const { along, offset, stretches } of this.rays.values()) {
      const [dx, dy] = along;
      const place = (t: number): [number, number] => [dx * t - dy * offset, dy * t + dx * offset];
      for (const { owner, from, to } of this.joined(stretches)) {
        const line: Line = [...place(from), ...place(to)];
        const known = out.get(owner);
        if (known) known.push(line);
        else out.set(owner, [line]);
      }
    }
    return out;
  }

  private joined(stretches: readonly Stretch[]): Stretch[] {
    const out: Stretch[] = [];
    const last = new Map<string, Stretch>();
    for (const stretch of [...stretches].sort((p, q) => p.from - q.from)) {
      const before = last.get(stretch.owner);
      if (before && stretch.from - before.to <= this.grain) {
        before.to = Math.max(before.to, stretch.to);
        continue;
      }
      const own = { ...stretch };
      last.set(own.owner, own);
      out.push(own);
    }
    return out;
  }

  private rayOf(dx: number, dy: number, x: number, y: number): Ray {
    // One direction of two.
    const sign = dx < -DIRECTION || (Math.abs(dx) <= DIRECTION && dy < 0) ? -1 : 1;
    const along = [sign * dx, sign * dy] as const;
    const offset = along[0] * y - along[1] * x;
    const turn = Math.round(Math.atan2(along[1], along[0]) / DIRECTION);
    const place = Math.round(offset / this.grain);
    // What was rounded to the neighbour is the same all the same.
    for (const t of [turn, turn - 1, turn + 1])
      for (const p of [place, place - 1, place + 1]) {
        const known = this.rays.get(`${t} ${p}`);
        if (known) return known;
      }
    const made = { along, offset, stretches: [] };
    this.rays.set(`${turn} ${place}`, made);
    return made;
  }
}
