/** Where versions stand on the rail. Pure geometry, in pixels. */
import { inSittings } from '@ovrel/core/sittings';
import type { RailColumns, Version } from '../../contract/api.ts';

export type Scale = 'even' | 'time';
export type Glyph = 'check-in' | 'autosave' | 'sitting' | 'backup' | 'keeper' | 'proposed';

/** What the rail knows of a version. */
export interface Mark extends Pick<Version, 'id' | 'number' | 'kind' | 'title'> {
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly by: string;
  /** The same by id. */
  readonly person: string;
  /** It is about to be done, and no version yet. */
  readonly isProposed?: true;
  /** The version that it brought forward or goes on from. */
  readonly source: { readonly id: string; readonly number: number | undefined } | null;
}

const kindOf: Readonly<Record<string, Version['kind']>> = { a: 'autosave', b: 'backup' };

/** How a version looks; with others, the last of a sitting. */
export function glyphOf(version: Mark, versions: number): Glyph {
  if (version.isProposed) return 'proposed';
  if (version.title) return 'keeper';
  return versions > 1 ? 'sitting' : version.kind;
}

/** Milliseconds without a save that end a sitting. */
export const pauseOf = ({ sittingPause }: Pick<RailColumns, 'sittingPause'>): number => sittingPause * 60_000;

export function marksOf({ ids, numbers, at, kinds, by, people, titles, sources }: RailColumns): Mark[] {
  const titleOf = new Map(titles);
  const sourceOf = new Map(sources);
  const numberOf = new Map(ids.map((id, i) => [id, numbers[i]]));
  return ids.map((id, i) => {
    const source = sourceOf.get(id);
    return {
      id,
      number: numbers[i] ?? 0,
      at: (at[i] ?? 0) * 1000,
      kind: kindOf[kinds[i] ?? ''] ?? 'check-in',
      by: people[by[i] ?? -1]?.name ?? '',
      person: people[by[i] ?? -1]?.id ?? '',
      title: titleOf.get(id) ?? null,
      source: source === undefined ? null : { id: source, number: numberOf.get(source) },
    };
  });
}

export interface Stop {
  readonly x: number;
  readonly version: Mark;
  readonly glyph: Glyph;
  /** Versions that a sitting stands for; the shown one is the last. */
  readonly sitting: readonly Mark[];
}

export interface Arc {
  readonly from: number;
  readonly to: number;
  readonly says: string;
}

export interface RailLayout {
  readonly stops: readonly Stop[];
  readonly arcs: readonly Arc[];
  readonly width: number;
  readonly dates: readonly { readonly x: number; readonly text: string }[];
}

const STEP = 64;
const MARGIN = 40;
/** Two versions never stand closer than this. */
const CLOSEST = 22;
const DATE_ROOM = 84;

const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });

/** How a line is laid out. */
export interface RailAsked {
  readonly scale: Scale;
  /** The visible width. */
  readonly room: number;
  /** Milliseconds without a save that end a sitting. */
  readonly pause: number;
}

/** `versions` are one line, oldest first. */
export function layoutRail(versions: readonly Mark[], { scale, room, pause }: RailAsked): RailLayout {
  const groups = inSittings(versions, pause);
  const xs =
    scale === 'even'
      ? groups.map((_, i) => MARGIN + i * Math.max(STEP, spread(groups.length, room)))
      : placeByTime(groups, room);
  const stops = groups.map((group, i): Stop => {
    const version = group.at(-1) as Mark;
    return {
      x: xs[i] as number,
      version,
      sitting: group,
      glyph: glyphOf(version, group.length),
    };
  });
  const placeOf = new Map(stops.flatMap((s) => s.sitting.map((v) => [v.id, s.x] as const)));
  const arcs = versions.flatMap((v): Arc[] => {
    const from = placeOf.get(v.source?.id ?? '');
    const to = placeOf.get(v.id);
    if (from === undefined || to === undefined) return [];
    return [{ from, to, says: `v${v.number} goes on from v${v.source?.number ?? '?'}` }];
  });
  return { stops, arcs, width: Math.max(room, (xs.at(-1) ?? 0) + MARGIN + 80), dates: dateMarks(stops) };
}

/** Few versions spread over the room, but not so far that the eye loses them. */
const spread = (n: number, room: number): number => (n > 1 ? Math.min(110, (room - 2 * MARGIN - 100) / (n - 1)) : 0);

function placeByTime(groups: readonly (readonly Mark[])[], room: number): number[] {
  const at = groups.map((g) => g.at(-1)?.at ?? 0);
  const first = at[0] ?? 0;
  const span = Math.max(1, (at.at(-1) ?? 0) - first);
  const width = Math.max(room - 2 * MARGIN - 80, 200);
  let before = -Infinity;
  return at.map((t) => {
    const x = Math.max(MARGIN + ((t - first) / span) * width, before + CLOSEST);
    before = x;
    return x;
  });
}

function dateMarks(stops: readonly Stop[]): { x: number; text: string }[] {
  const out: { x: number; text: string }[] = [];
  let last = '';
  let lastX = -Infinity;
  for (const stop of stops) {
    const text = date.format(new Date(stop.version.at)).replace('Sept', 'Sep');
    if (text === last || stop.x - lastX < DATE_ROOM) continue;
    out.push({ x: stop.x, text });
    last = text;
    lastX = stop.x;
  }
  return out;
}

/** The stops within a window, found by halving: stops stand in order. */
export function stopsBetween(stops: readonly Stop[], from: number, to: number): readonly Stop[] {
  const firstAt = (x: number): number => {
    let low = 0;
    let high = stops.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if ((stops[mid] as Stop).x < x) low = mid + 1;
      else high = mid;
    }
    return low;
  };
  return stops.slice(firstAt(from), firstAt(to));
}

/** The stop nearest to a place on the rail. */
export function nearestStop(stops: readonly Stop[], x: number): Stop | undefined {
  return (
    stopsBetween(stops, x - 4000, x + 4000).reduce<Stop | undefined>(
      (best, s) => (!best || Math.abs(s.x - x) < Math.abs(best.x - x) ? s : best),
      undefined,
    ) ?? (x < 0 ? stops[0] : stops.at(-1))
  );
}
