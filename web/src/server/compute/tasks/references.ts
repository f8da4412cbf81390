import { referencesOf, type Reference } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

export const references: Task<{ readonly source: Source }, Reference[]> = ({ source: { bytes, name } }) =>
  referencesOf(bytes, name);
