import { useEffect, useMemo, useRef, useState } from 'react';
import type { Space } from '@ovrel/core/space';
import type { Version } from '../../../contract/api.ts';
import { linkTo } from '../../../contract/operation.ts';
import { api } from '../../../contract/operations/index.ts';
import type { PartDistances, SpaceOrder, SpaceReport } from '../../../workers/space.ts';

export interface Spaces {
  readonly a: Space | undefined;
  readonly b: Space | undefined;
  /** Why one of them cannot be shown. */
  readonly broken: string | undefined;
  /** By part: how far its surface lies from the other side. Undefined while that is found out. */
  readonly distances: { readonly ofA: Distances; readonly ofB: Distances } | undefined;
}

export type Distances = ReadonlyMap<number, Float32Array>;

const addressOf = (version: Version | undefined): string | undefined =>
  version && linkTo(api.versions.space, { versionId: version.id });

/** Models of versions; `pairs` are parts of A and of B whose surfaces differ, by the number among their parts; `laid`: how A lies over B. */
export function useSpaces(
  a: Version | undefined,
  b: Version,
  pairs: readonly (readonly [number, number])[],
  laid: readonly number[] | undefined,
): Spaces {
  const worker = useRef<Worker>(undefined);
  const [loaded, setLoaded] = useState<ReadonlyMap<string, Space>>(new Map());
  const [failed, setFailed] = useState<ReadonlyMap<string, string>>(new Map());
  const [distances, setDistances] = useState<Spaces['distances']>();
  const [addressA, addressB] = [addressOf(a), addressOf(b)];
  useEffect(() => {
    const started = new Worker(new URL('../../../workers/space.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.onmessage = ({ data }: MessageEvent<SpaceReport>) => {
      if (data.kind === 'loaded') setLoaded((known) => new Map(known).set(data.address, data.space));
      else if (data.kind === 'failed') setFailed((known) => new Map(known).set(data.address, data.sentence));
      else setDistances({ ofA: byPart(data.ofA), ofB: byPart(data.ofB) });
    };
    return () => started.terminate();
  }, []);
  useEffect(() => {
    for (const address of [addressA, addressB])
      if (address !== undefined) worker.current?.postMessage({ kind: 'load', address } satisfies SpaceOrder);
  }, [addressA, addressB]);
  useEffect(() => {
    setDistances(undefined);
    if (addressA === undefined || addressB === undefined || pairs.length === 0) return;
    worker.current?.postMessage({ kind: 'distances', a: addressA, b: addressB, pairs, laid } satisfies SpaceOrder);
  }, [addressA, addressB, pairs, laid]);
  return useMemo(() => {
    const of = (address: string | undefined): Space | undefined => loaded.get(address ?? '');
    return { a: of(addressA), b: of(addressB), broken: failed.get(addressB ?? ''), distances };
  }, [loaded, failed, distances, addressA, addressB]);
}

const byPart = (found: readonly PartDistances[]): Distances =>
  new Map(found.map(({ part, distances }) => [part, distances]));
