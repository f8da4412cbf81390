import { z } from 'zod';
import { job } from '../job.ts';

/** Makes the contents of a file smaller. */
export const pack = job({
  kind: 'pack',
  schema: z.object({ fileId: z.uuid() }),
  title: 'Making a file smaller',
  priority: 10,
  retries: 2,
  async run({ fileId }, { tell }) {
    const { packFile } = await import('../../store/pack.ts');
    return packFile(fileId, (done, total) => tell('version', done, total));
  },
});
