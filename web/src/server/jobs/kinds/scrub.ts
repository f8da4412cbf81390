import { z } from 'zod';
import { scrubReportSchema } from '../../../contract/storage.ts';
import { job } from '../job.ts';

export const scrub = job({
  kind: 'scrub',
  schema: z.object({}),
  title: 'Reading and checking everything',
  priority: 1,
  retries: 1,
  cron: '41 2 * * 0',
  ofStore: true,
  async run(_, { tell }) {
    const work = await import('../../store/scrub.ts');
    return work.scrub(tell);
  },
  say(report) {
    const found = scrubReportSchema.safeParse(report);
    if (!found.success) return undefined;
    const { damagedChunks, damagedContents, ledger } = found.data;
    if (damagedChunks || damagedContents) return 'damage was found';
    return ledger?.broken || ledger?.wrong.length ? 'versions are not what the ledger says' : 'all is well';
  },
});
