import { makeFilm, type FilmFrame, type FilmOptions } from '@ovrel/core/node';
import type { Task } from '../task.ts';

interface Input {
  readonly frames: readonly FilmFrame[];
  readonly options: FilmOptions;
}

/** Pictures of versions as one that moves. */
export const film: Task<Input, Uint8Array> = ({ frames, options }) => makeFilm(frames, options);
