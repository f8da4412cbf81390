import { z } from 'zod';
import { job } from '../job.ts';

export const drawn = job({
  kind: 'drawn',
  schema: z.object({ versionId: z.uuid() }),
  title: 'Finding out who drew what',
  priority: 15,
  retries: 2,
  async run({ versionId }, { tell }) {
    const { findDrawn } = await import('../../drawn/service.ts');
    await findDrawn(versionId, tell);
  },
});
