/** Where the lines beside the one that is shown run on the rail. Pure geometry, in pixels. */
import type { RailColumns } from '../../contract/api.ts';
import { inSittings } from '@ovrel/core/sittings';
import { glyphOf, marksOf, pauseOf, type Mark, type RailLayout, type Stop } from './layout.ts';

export type LaneStop = Pick<Stop, 'x' | 'version' | 'glyph' | 'sitting'>;

/** A curve between a lane and the line that is shown. */
export interface Turn {
  readonly from: number;
  readonly to: number;
}

export interface Lane {
  readonly id: string;
  readonly name: string;
  readonly closed: boolean;
  /** Only its beginning is drawn. */
  readonly folded: boolean;
  readonly y: number;
  readonly stops: readonly LaneStop[];
  readonly versions: number;
  /** Where it leaves the line that is shown, if it leaves that one. */
  readonly leaves: Turn | undefined;
  /** Where it was joined into that line. */
  readonly joins: readonly Turn[];
}

export interface LaneLayout {
  readonly lanes: readonly Lane[];
  /** Versions that the filter does not show. */
  readonly filteredOut: number;
  readonly height: number;
  readonly width: number;
}

/** The rail without lanes. */
export const RAIL_HEIGHT = 150;
const LANE = 46;
const FIRST = RAIL_HEIGHT + 22;
const ROOM_BELOW = 8;
const STEP = 56;
const CLOSEST = 24;
const MARGIN = 120;

/**
 * `folded`: lines that are folded although they are open, or unfolded although they are closed. `passing` leaves those
 * versions that a filter shows; a lane without any is not drawn.
 */
export function layoutLanes(
  columns: RailColumns,
  rail: RailLayout,
  folded: ReadonlySet<string>,
  passing: (marks: readonly Mark[]) => readonly Mark[],
): LaneLayout {
  const axis = rail.stops.flatMap((stop) => stop.sitting.map((mark) => ({ mark, x: stop.x })));
  const placeOf = new Map(axis.map(({ mark, x }) => [mark.id, x]));
  const lineOf = new Map(columns.lines.map((line) => [line.id, line]));
  let filteredOut = 0;
  const lanes = columns.lanes
    .toSorted((p, q) => (lineOf.get(p.line)?.position ?? 0) - (lineOf.get(q.line)?.position ?? 0))
    .map((lane, k): Lane => {
      const line = lineOf.get(lane.line);
      const all = marksOf({ ...columns, ...lane });
      const marks = passing(all);
      filteredOut += all.length - marks.length;
      const start = placeOf.get(line?.from?.id ?? '');
      const sittings = inSittings(marks, pauseOf(columns));
      const stops = start === undefined ? byTime(sittings, axis) : inSteps(sittings, start);
      const own = new Map(stops.flatMap((stop) => stop.sitting.map(({ id }) => [id, stop.x] as const)));
      const closed = line?.closed ?? false;
      const [first] = stops;
      return {
        id: lane.line,
        name: line?.name ?? '',
        closed,
        folded: closed !== folded.has(lane.line),
        y: FIRST + k * LANE,
        stops,
        versions: marks.length,
        leaves: start === undefined || !first ? undefined : { from: start, to: first.x },
        joins: columns.sources.flatMap(([version, source]): Turn[] => {
          const [from, to] = [own.get(source), placeOf.get(version)];
          return from === undefined || to === undefined ? [] : [{ from, to }];
        }),
      };
    });
  const furthest = Math.max(0, ...lanes.flatMap((lane) => lane.stops.at(-1)?.x ?? 0));
  return {
    lanes,
    filteredOut,
    height: RAIL_HEIGHT + (lanes.length ? lanes.length * LANE + ROOM_BELOW : 0),
    width: Math.max(rail.width, furthest + MARGIN),
  };
}

function stopAt(x: number, sitting: readonly Mark[]): LaneStop {
  const version = sitting.at(-1) as Mark;
  return { x, version, sitting, glyph: glyphOf(version, sitting.length) };
}

const inSteps = (sittings: readonly (readonly Mark[])[], start: number): LaneStop[] =>
  sittings.map((sitting, k) => stopAt(start + (k + 1) * STEP, sitting));

/** Beside what was made on the line that is shown at the same time. */
function byTime(
  sittings: readonly (readonly Mark[])[],
  axis: readonly { readonly mark: Mark; readonly x: number }[],
): LaneStop[] {
  let at = 0;
  let last = -Infinity;
  return sittings.map((sitting) => {
    const now = sitting.at(-1)?.at ?? 0;
    while (at + 1 < axis.length && (axis[at + 1]?.mark.at ?? Infinity) <= now) at++;
    last = Math.max(last + CLOSEST, axis[at]?.x ?? 0);
    return stopAt(last, sitting);
  });
}
