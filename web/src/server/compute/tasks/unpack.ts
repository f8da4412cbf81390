import { packRecipe, unpack as opened, type DeflateSettings } from '@ovrel/core';
import type { Task } from '../task.ts';
import { engines } from './deflate.ts';

interface Unpacked {
  readonly stream: Uint8Array;
  readonly recipe: string;
  readonly opened: number;
  readonly closed: number;
  readonly settings: readonly DeflateSettings[];
}

/** The opened stream and the recipe that rebuilds the container from it; null where nothing could be opened. */
export const unpack: Task<
  { readonly bytes: Uint8Array; readonly hints: readonly DeflateSettings[] },
  Unpacked | null
> = ({ bytes, hints }) => {
  const found = opened(bytes, engines, hints);
  if (!found) return null;
  const { stream, segments, settings } = found;
  return { stream, recipe: packRecipe(segments), opened: found.opened, closed: found.closed, settings };
};
