import { z } from 'zod';
import { job } from '../job.ts';

export const tally = job({
  kind: 'tally',
  schema: z.object({}),
  title: 'Counting what is stored',
  priority: 5,
  retries: 1,
  cron: '7 * * * *',
  ofStore: true,
  async run(_, { tell }) {
    const work = await import('../../store/tally.ts');
    await work.tally(tell);
  },
});
