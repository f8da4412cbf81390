import { sketchOf } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

export const sketch: Task<{ readonly source: Source }, Uint32Array> = ({ source }) => sketchOf(source.bytes);
