import { open } from '@ovrel/core';
import { asOra } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** A layered picture as OpenRaster; null where it cannot be read. */
export const openRaster: Task<{ readonly source: Source }, Uint8Array | null> = ({ source: { bytes, name } }) =>
  orNothing(async () => {
    const { format } = await open(bytes, name);
    return format?.layers ? asOra(await format.layers(bytes)) : null;
  });
