import { z } from 'zod';
import { plural } from '@ovrel/core';
import { saySize } from '../../../say.ts';
import { job } from '../job.ts';

const reportSchema = z.object({ chunks: z.number(), bytes: z.number() });

export const collect = job({
  kind: 'collect',
  schema: z.object({}),
  title: 'Removing what nothing needs',
  priority: 5,
  retries: 1,
  cron: '23 * * * *',
  ofStore: true,
  async run(_, { tell, enqueue }) {
    const work = await import('../../store/collect.ts');
    const collected = await work.collect(tell);
    if (collected.chunks) await enqueue({ kind: 'tally', key: 'tally' });
    return collected;
  },
  say(report) {
    const found = reportSchema.safeParse(report);
    if (!found.success) return undefined;
    const { chunks, bytes } = found.data;
    return chunks ? `${plural(chunks, 'piece')} removed, ${saySize(bytes)}` : 'there was nothing to remove';
  },
});
