/** A web worker: fetches models, and finds out how far their surfaces lie from one another, away from the page. */
import { distancesOf } from '@ovrel/core/deviation';
import { surfaceInSpace, unpackSpace, type Space } from '@ovrel/core/space';
import { unzipped } from './unzipped.ts';

export type SpaceOrder =
  | { readonly kind: 'load'; readonly address: string }
  /** `pairs`: numbers of a part of A and the part of B that it became. */
  | {
      readonly kind: 'distances';
      readonly a: string;
      readonly b: string;
      readonly pairs: readonly (readonly [number, number])[];
      /** How A lies over B. */
      readonly laid: readonly number[] | undefined;
    };

/** Signed distances of the points of a part's surface from the other side; positive where it lies outside. */
export interface PartDistances {
  readonly part: number;
  readonly distances: Float32Array;
}

export type SpaceReport =
  | { readonly kind: 'loaded'; readonly address: string; readonly space: Space }
  | { readonly kind: 'failed'; readonly address: string; readonly sentence: string }
  | { readonly kind: 'distances'; readonly ofA: readonly PartDistances[]; readonly ofB: readonly PartDistances[] };

const spaces = new Map<string, Space>();

async function load(address: string): Promise<Space> {
  const known = spaces.get(address);
  if (known) return known;
  const space = unpackSpace(new Uint8Array(await (await unzipped(address, 'The model')).arrayBuffer()));
  spaces.set(address, space);
  return space;
}

const say = (report: SpaceReport): void => postMessage(report);

async function distances({ a, b, pairs, laid }: Extract<SpaceOrder, { kind: 'distances' }>): Promise<void> {
  const [spaceA, spaceB] = [await load(a), await load(b)];
  const found = pairs.flatMap(([i, j]) => {
    const [before, after] = [surfaceInSpace(spaceA, i, laid), surfaceInSpace(spaceB, j)];
    if (!before || !after) return [];
    return [
      {
        ofA: { part: i, distances: distancesOf(before, after) },
        ofB: { part: j, distances: distancesOf(after, before) },
      },
    ];
  });
  say({ kind: 'distances', ofA: found.map(({ ofA }) => ofA), ofB: found.map(({ ofB }) => ofB) });
}

addEventListener('message', ({ data }: MessageEvent<SpaceOrder>) => {
  if (data.kind === 'distances') {
    // Without them a part is shown as changed, and not where.
    distances(data).catch(() => say({ kind: 'distances', ofA: [], ofB: [] }));
    return;
  }
  load(data.address)
    .then((space) => say({ kind: 'loaded', address: data.address, space }))
    .catch((error: unknown) =>
      say({ kind: 'failed', address: data.address, sentence: error instanceof Error ? error.message : String(error) }),
    );
});
