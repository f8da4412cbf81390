/** What a reader should know of how B was written, seen beside A: nothing of it is a change that somebody made. */
import { diagonal3, type Box3 } from '../../mesh/mesh.ts';
import type { Solid } from '../../model/solid.ts';
import { extentOfSolid } from './extent.ts';

/** Share of the size of a model that numbers of four bytes blur, where it stands far away. */
const BLURRED = 1e-4;
const SHORT_NUMBER = 2 ** -24;
/** Steps that numbers are rounded to, in units of the file. */
const STEPS = [1000, 100, 10, 1, 0.1, 0.01, 0.001, 1e-4, 1e-5] as const;
/** Coordinates that are looked at. */
const SAMPLE = 6000;
const FEWEST = 60;
/** Share of them that lie on a step. */
const NEARLY_ALL = 0.995;
/** Steps of a rounding that counts: so many times as coarse as before. */
const COARSER = 10;

/** Releases of a format, earliest first. */
const releases: readonly (readonly RegExp[])[] = [
  [/^IFC2X/i, /^IFC4(?!X)/i, /^IFC4X/i],
  [/^CONFIG_CONTROL|^AP203/i, /^AUTOMOTIVE|^AP214/i, /^AP242/i],
];

/** In sentences; empty where there is nothing to know. */
export function provenanceNotes(a: Solid, b: Solid): string[] {
  return [newerProgram(a, b), newerRelease(a, b), farAway(a, b), coarser(a, b)].filter((note) => note !== undefined);
}

function newerProgram({ origin: a }: Solid, { origin: b }: Solid): string | undefined {
  const [was, is] = [releaseOf(a.program), releaseOf(b.program)];
  if (!was || !is || was.name !== is.name || inOrder(was.numbers, is.numbers) >= 0) return undefined;
  return `B was written by a newer release of ${is.name} (${is.said}, A by ${was.said}): who has the older one may not be able to open it.`;
}

interface Release {
  readonly name: string;
  readonly said: string;
  readonly numbers: readonly number[];
}

/** “Slipway Modeller 2.1”: its name, and the numbers behind it. */
function releaseOf(program: string | undefined): Release | undefined {
  const found = /^(?<name>.*?\p{L}.*?)[\s,v-]+(?<said>\d+(?:\.\d+){0,3})/u.exec(program ?? '')?.groups;
  if (!found) return undefined;
  const { name = '', said = '' } = found;
  return { name: name.trim(), said, numbers: said.split('.').map(Number) };
}

/** Below 0 where the first is the earlier one. */
function inOrder(p: readonly number[], q: readonly number[]): number {
  for (let k = 0; k < Math.max(p.length, q.length); k++) {
    const difference = (p[k] ?? 0) - (q[k] ?? 0);
    if (difference !== 0) return difference;
  }
  return 0;
}

function newerRelease({ origin: a }: Solid, { origin: b }: Solid): string | undefined {
  const [was, is] = [a.formatVersion, b.formatVersion];
  if (was === undefined || is === undefined || was === is) return undefined;
  const isNewer = releases.some((list) => {
    const [from, to] = [was, is].map((said) => list.findIndex((release) => release.test(said)));
    return from !== undefined && to !== undefined && from >= 0 && from < to;
  });
  if (!isNewer) return undefined;
  return `B is written in a newer release of its format (${is}, A in ${was}): not every program reads it.`;
}

function farAway(a: Solid, b: Solid): string | undefined {
  const there = extentOfSolid(b);
  if (!there || !isFar(there)) return undefined;
  const before = extentOfSolid(a);
  if (before && isFar(before)) return undefined;
  const unit = b.origin.units ?? 'units';
  const distance = Math.round(Math.hypot(...centre3(there))).toLocaleString('en');
  return `B stands ${distance} ${unit} from its origin: programs that keep short numbers show it blurred.`;
}

const centre3 = ([x0, y0, z0, x1, y1, z1]: Box3): readonly number[] => [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2];

const isFar = (box: Box3): boolean =>
  Math.hypot(...centre3(box)) * SHORT_NUMBER > BLURRED * Math.max(diagonal3(box), Number.MIN_VALUE);

function coarser(a: Solid, b: Solid): string | undefined {
  if (a.origin.units !== b.origin.units) return undefined;
  const [was, is] = [stepOf(a), stepOf(b)];
  if (was === undefined || is === undefined || is < COARSER * was * 0.99) return undefined;
  const unit = b.origin.units ?? 'units';
  return `Coordinates of B are rounded to ${is} ${unit}, those of A to ${was} ${unit} or finer.`;
}

/** The coarsest step that nearly all coordinates are on; undefined where there are too few to tell. */
function stepOf({ meshes }: Solid): number | undefined {
  const count = meshes.reduce((sum, { points }) => sum + points.length, 0);
  if (count < FEWEST) return undefined;
  // No multiple of three, so that all axes are seen.
  const every = 3 * Math.floor(count / (3 * SAMPLE)) + 1;
  const sample: number[] = [];
  let at = 0;
  for (const { points } of meshes)
    for (const value of points) if (at++ % every === 0 && value !== 0) sample.push(value);
  if (sample.length < FEWEST) return undefined;
  const found = STEPS.find(
    (step) => sample.filter((value) => isOnStep(value, step)).length >= NEARLY_ALL * sample.length,
  );
  return found ?? STEPS.at(-1);
}

function isOnStep(value: number, step: number): boolean {
  const steps = value / step;
  // Short numbers lie a little beside their step.
  const slack = Math.min(step / 20, Math.max(step / 1000, 4 * SHORT_NUMBER * Math.abs(value)));
  return Math.abs(steps - Math.round(steps)) * step <= slack;
}
