import { compareFiles, open, ReadError, type Compared } from '@ovrel/core';
import type { Source } from '../task.ts';

/** Two contents compared as the nearest kind that both can be seen as. */
export const compared = async (a: Source, b: Source, tolerance?: number): Promise<Compared> =>
  compareFiles(await open(a.bytes, a.name), await open(b.bytes, b.name), tolerance === undefined ? {} : { tolerance });

/** Null for what cannot be read. */
export async function orNothing<T>(work: () => T | Promise<T>): Promise<T | null> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ReadError) return null;
    throw error;
  }
}
