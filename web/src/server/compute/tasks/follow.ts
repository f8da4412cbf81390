import { kindOf, modelOf, open } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { located, type Located } from './locate.ts';

interface Input {
  readonly a: Source;
  readonly b: Source;
  readonly parts: readonly number[];
}

/** For each part of A that was asked for, where it is in B; null where it is gone. */
export const follow: Task<Input, (Located | null)[]> = async ({ a, b, parts }) => {
  const from = await open(a.bytes, a.name);
  const to = await open(b.bytes, b.name);
  const [kind] = from.kinds;
  const following = kindOf(kind).follow;
  if (!following || to.kinds[0] !== kind) return parts.map(() => null);
  const found = following(await modelOf(from, kind), await modelOf(to, kind), parts);
  return found.map((part) => located(to, part));
};
