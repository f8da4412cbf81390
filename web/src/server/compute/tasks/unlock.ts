import { open } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** A document without its lock; null where the password is not the right one. */
export const unlock: Task<{ readonly source: Source; readonly password: string }, Uint8Array | null> = ({
  source: { bytes, name },
  password,
}) =>
  orNothing(async () => {
    const { format } = await open(bytes, name);
    return format?.unlock?.(bytes, password) ?? null;
  });
