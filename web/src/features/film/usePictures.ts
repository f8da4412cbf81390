'use client';
/** Pictures of versions, made ready ahead of the one that is looked at, so that the next is there at once. */
import { useEffect, useRef, useState } from 'react';
import { linkTo } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import type { FilmOrder, FilmReport } from '../../workers/film.ts';
import { wanted } from './ahead.ts';
import { colourOf } from './colour.ts';

/** Null: the version has no picture. */
export type Frame = ImageBitmap | null;

export interface FilmPictures {
  /** By the ids of their versions, as far as they are here. */
  readonly plain: ReadonlyMap<string, Frame>;
  /** The same with what changed since the one before marked; none for the first. */
  readonly marked: ReadonlyMap<string, Frame>;
}

const addressOf = (versionId: string): string => linkTo(api.versions.thumbnail, { versionId, query: { side: '1024' } });

/** Those around `at` are fetched. */
export function usePictures(ids: readonly string[], at: number): FilmPictures {
  const [pictures, setPictures] = useState<FilmPictures>({ plain: new Map(), marked: new Map() });
  const worker = useRef<Worker>(undefined);
  const near = useRef<ReadonlySet<string>>(new Set());
  const before = useRef(at);
  useEffect(() => {
    const started = new Worker(new URL('../../workers/film.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.onmessage = ({ data: { id, marks, picture } }: MessageEvent<FilmReport>) => {
      if (!near.current.has(id)) return;
      const kind = marks ? 'marked' : 'plain';
      setPictures((known) => ({ ...known, [kind]: new Map(known[kind]).set(id, picture) }));
    };
    return () => started.terminate();
  }, []);
  useEffect(() => {
    const forward = at >= before.current;
    before.current = at;
    const places = wanted(at, forward).filter((place) => ids[place] !== undefined);
    near.current = new Set(places.map((place) => ids[place] as string));
    const frames = places.map((place) => {
      const id = ids[place] as string;
      return { id, address: addressOf(id), before: ids[place - 1] };
    });
    worker.current?.postMessage({ frames, colour: colourOf('--ov-plum') } satisfies FilmOrder);
    setPictures(({ plain, marked }) => ({ plain: kept(plain, near.current), marked: kept(marked, near.current) }));
  }, [ids, at]);
  return pictures;
}

/** Those that are still near; the same where all are. The others give back their memory at once: it is much. */
function kept(pictures: ReadonlyMap<string, Frame>, near: ReadonlySet<string>): ReadonlyMap<string, Frame> {
  const left = [...pictures].filter(([id]) => near.has(id));
  if (left.length === pictures.size) return pictures;
  for (const [id, picture] of pictures) if (!near.has(id)) picture?.close();
  return new Map(left);
}
