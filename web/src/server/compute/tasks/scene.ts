import { gzipSync } from 'node:zlib';
import { open, packScene, sceneOf } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** A packed scene (kinds/drawing/draw/packed.ts), gzipped; empty where the content has no such page. */
export const scene: Task<{ readonly source: Source; readonly page: number }, Uint8Array> = async ({ source, page }) => {
  const { kinds, design } = await open(source.bytes, source.name);
  if (kinds[0] !== 'drawing' || !design?.pages[page]) return new Uint8Array();
  return gzipSync(packScene(sceneOf(design, page)), { level: 3 });
};
