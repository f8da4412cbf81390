import { useEffect, useRef, useState } from 'react';
import type { Frame } from './usePictures.ts';

interface Playing {
  readonly at: number;
  readonly last: number;
  readonly pace: number;
  readonly frames: ReadonlyMap<string, Frame>;
  readonly ids: readonly string[];
}

/** Goes on when the time of a version is over and the next picture is here; stops at the end. */
export function usePlaying(
  { at, last, pace, frames, ids }: Playing,
  show: (at: number) => void,
): { isPlaying: boolean; setIsPlaying: (playing: boolean) => void } {
  const [isPlaying, setIsPlaying] = useState(false);
  const isHere = frames.has(ids[at + 1] ?? '');
  const latest = useRef(show);
  useEffect(() => {
    latest.current = show;
  });
  useEffect(() => {
    if (!isPlaying || !isHere || at >= last) return undefined;
    const timer = setTimeout(() => {
      latest.current(at + 1);
      if (at + 1 >= last) setIsPlaying(false);
    }, pace);
    return () => clearTimeout(timer);
  }, [isPlaying, isHere, at, last, pace]);
  return { isPlaying, setIsPlaying };
}
