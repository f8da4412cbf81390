import { z } from 'zod';
import { job } from '../job.ts';

/** Looks into a new version, so that whoever opens it does not wait. */
export const look = job({
  kind: 'look',
  schema: z.object({ versionId: z.uuid() }),
  title: 'Looking into a version',
  priority: 30,
  retries: 2,
  atOnce: 2,
  async run({ versionId }) {
    const { recordReferences } = await import('../../references/service.ts');
    const { prepareVersion } = await import('../../versions/prepare.ts');
    await recordReferences(versionId);
    await prepareVersion(versionId);
  },
});
