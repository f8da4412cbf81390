'use client';
/** Pictures of versions, fetched ahead of the one that is looked at, so that the next is there at once. */
import { useEffect, useRef, useState } from 'react';
import { linkTo } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import { wanted } from './ahead.ts';

/** Pictures that are kept at all. */
const KEPT = 80;
/** Fetched at the same time. */
const AT_ONCE = 4;

/** Null: the version has no picture. */
export type Frame = ImageBitmap | null;

async function fetched(versionId: string): Promise<Frame> {
  const answer = await fetch(linkTo(api.versions.thumbnail, { versionId, query: { side: '1024' } }));
  if (!answer.ok) return null;
  return createImageBitmap(await answer.blob());
}

/** Frames by the ids of their versions; those around `at` are fetched. */
export function useFrames(ids: readonly string[], at: number): ReadonlyMap<string, Frame> {
  const [frames, setFrames] = useState<ReadonlyMap<string, Frame>>(new Map());
  const known = useRef(new Map<string, Frame>());
  const underWay = useRef(new Set<string>());
  const isGone = useRef(false);
  const before = useRef(at);
  useEffect(() => {
    const forward = at >= before.current;
    before.current = at;
    const nearFirst = wanted(at, forward).flatMap((place) => ids[place] ?? []);
    const fill = (): void => {
      for (const id of nearFirst) {
        if (underWay.current.size >= AT_ONCE) return;
        if (known.current.has(id) || underWay.current.has(id)) continue;
        underWay.current.add(id);
        void fetched(id)
          .catch(() => null)
          .then((frame) => {
            underWay.current.delete(id);
            if (isGone.current) return;
            keep(known.current, id, frame);
            setFrames(new Map(known.current));
            fill();
          });
      }
    };
    fill();
  }, [ids, at]);
  useEffect(() => {
    isGone.current = false;
    return () => {
      isGone.current = true;
    };
  }, []);
  return frames;
}

/** The oldest are let go. */
function keep(known: Map<string, Frame>, id: string, frame: Frame): void {
  known.set(id, frame);
  for (const old of known.keys()) {
    if (known.size <= KEPT) return;
    known.delete(old);
  }
}
