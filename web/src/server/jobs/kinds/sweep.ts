import { plural } from '@ovrel/core';
import { z } from 'zod';
import { sweepReportSchema } from '../../../contract/keeping.ts';
import { saySize } from '../../../say.ts';
import { job } from '../job.ts';

export const sweep = job({
  kind: 'sweep',
  schema: z.object({ projectId: z.uuid().optional() }),
  title: 'Sweeping by the keeping rules',
  priority: 3,
  retries: 1,
  cron: '11 3 * * *',
  ofStore: true,
  async run({ projectId }, { tell, enqueue }) {
    const work = await import('../../keeping/sweep.ts');
    const swept = await work.sweep(projectId, tell);
    if (swept.versions > 0) await enqueue({ kind: 'collect', key: 'collect' });
    return swept;
  },
  say(report) {
    const found = sweepReportSchema.safeParse(report);
    if (!found.success) return undefined;
    const { versions, files, bytes } = found.data;
    if (versions === 0) return 'nothing was to go';
    return `${plural(versions, 'version')} of ${plural(files, 'file')} removed, ${saySize(bytes)}`;
  },
});
