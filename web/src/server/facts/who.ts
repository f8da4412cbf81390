import { createHash } from 'node:crypto';
import { z } from 'zod';
import { runTask } from '../compute/pool.ts';
import type { VersionRow } from '../versions/rows.ts';
import { jsonOf } from './codec.ts';
import { computed, unlessTooHeavy, type Fact } from './fact.ts';
import { hasReader, isReadable, sourceOf } from './subject.ts';

interface Chain {
  readonly versions: readonly VersionRow[];
  readonly tolerance: number | undefined;
}

/** For each change between the ends, by its id, the steps that touched its part, from 0. */
export type Touched = Record<string, number[]>;

const who: Fact<Chain, Touched> = {
  name: 'who',
  version: 1,
  placeOf({ versions, tolerance }) {
    const chain = versions.map((v) => `${v.content_id} ${v.upload_name}`).join('\n');
    const hash = createHash('sha256')
      .update(`${chain} ${tolerance ?? ''}`)
      .digest('hex')
      .slice(0, 40);
    return { contentId: versions.at(-1)?.content_id ?? '', detail: hash };
  },
  codec: jsonOf(z.record(z.string(), z.array(z.number().int()))),
  compute: async ({ versions, tolerance }) =>
    runTask(
      'steps',
      { chain: versions.map(sourceOf), ...(tolerance === undefined ? {} : { tolerance }) },
      { seconds: 45 },
    ),
};

/** Undefined where the versions are too large to follow their parts from one to the next. */
export async function touchedIn(chain: Chain): Promise<Touched | undefined> {
  const { versions } = chain;
  if (versions.length < 2 || !versions.every(hasReader)) return {};
  const sizes = versions.reduce((sum, v) => sum + Number(v.size), 0);
  const [last] = versions.slice(-1);
  if (!last || !isReadable({ ...last, size: String(sizes) })) return undefined;
  return unlessTooHeavy(computed(who, chain), () => undefined);
}
