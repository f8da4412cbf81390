import { z } from 'zod';
import { job } from '../job.ts';

export const summary = job({
  kind: 'summary',
  schema: z.object({ fileId: z.uuid() }),
  title: 'Summing up what changed',
  priority: 20,
  retries: 2,
  async run({ fileId }, { tell }) {
    const { summariseFile } = await import('../../versions/prepare.ts');
    await summariseFile(fileId, tell);
  },
});
