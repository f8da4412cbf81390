import { z } from 'zod';
import { job } from '../job.ts';

const reportSchema = z.object({ places: z.array(z.string()) });

export const anchor = job({
  kind: 'anchor',
  schema: z.object({}),
  title: 'Anchoring the ledger',
  priority: 6,
  retries: 5,
  cron: '13 * * * *',
  ofStore: true,
  run: async () => (await import('../../ledger/anchor.ts')).anchorEverywhere(),
  say(report) {
    const found = reportSchema.safeParse(report);
    if (!found.success) return undefined;
    const { places } = found.data;
    return places.length > 0 ? `put by ${places.join(', ')}` : 'no place is set for anchors';
  },
});
