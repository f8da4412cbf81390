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

/** What could not be had is asked for again after so long, in milliseconds. */
const AGAIN = 1000;

/** Undefined where it cannot be had just now. */
async function fetched(versionId: string): Promise<Frame | undefined> {
  const answer = await fetch(linkTo(api.versions.thumbnail, { versionId, query: { side: '1024' } }));
  if (answer.status === 404) return null;
  return answer.ok ? createImageBitmap(await answer.blob()) : undefined;
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
    let timer: ReturnType<typeof setTimeout>;
    const fill = (): void => {
      for (const id of nearFirst) {
        if (underWay.current.size >= AT_ONCE) return;
        if (known.current.has(id) || underWay.current.has(id)) continue;
        underWay.current.add(id);
        void fetched(id)
          .catch(() => undefined)
          .then((frame) => {
            underWay.current.delete(id);
            if (isGone.current) return;
            if (frame === undefined) {
              timer = setTimeout(fill, AGAIN);
              return;
            }
            keep(known.current, id, frame);
            setFrames(new Map(known.current));
            fill();
          });
      }
    };
    fill();
    return () => clearTimeout(timer);
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
