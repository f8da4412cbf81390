/** When a sitting of saves is over: what a project says of it. */
import type { Person } from '../../contract/api.ts';
import { transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit } from '../people/access.ts';
import { sittingPauseOf, updateSittingPause } from './rows.ts';
import { getProject } from './service.ts';

const MINUTE = 60_000;

/** In milliseconds, as the core counts it. */
export const pauseIn = async (client: Db, projectId: string): Promise<number> =>
  MINUTE * (await sittingPauseOf(client, projectId));

/** Holds for how saves are shown, stepped through and left from now on; what was swept by another pause is gone. */
export async function setSittingPause(by: Person, projectId: string, minutes: number): Promise<void> {
  await permit(by, 'manage', { projectId, folderId: null }, 'say when sittings are over');
  const { name } = await getProject(by, projectId);
  await transaction(async (client) => {
    await updateSittingPause(client, projectId, minutes);
    await tell(client, { kind: 'files', file: null, project: projectId });
    const subject = `${name}: sittings are over after ${minutes} minutes without a save`;
    await record(client, [{ act: 'changed rules', by, subject, projectId }]);
  });
}
