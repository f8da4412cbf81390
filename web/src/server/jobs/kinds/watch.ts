import { plural } from '@ovrel/core';
import { z } from 'zod';
import { job } from '../job.ts';

const reportSchema = z.object({ versions: z.number(), folders: z.number() });

export const watch = job({
  kind: 'watch',
  schema: z.object({}),
  title: 'Looking at watched folders',
  priority: 8,
  retries: 0,
  cron: '* * * * *',
  ofStore: true,
  async run(_, { tell }) {
    const { dueRows } = await import('../../watched/rows.ts');
    const { lookAtWatched } = await import('../../watched/look.ts');
    const { db } = await import('../../db/pool.ts');
    const due = await dueRows(db());
    let versions = 0;
    for (const { id } of due) versions += (await lookAtWatched(id, tell)).versions;
    return { versions, folders: due.length };
  },
  say(report) {
    const found = reportSchema.safeParse(report);
    return found.success ? `${plural(found.data.versions, 'version')} made` : undefined;
  },
});
