/** Titles, which make keepers of versions, and starting states. */
import type { Person, Version } from '../../contract/api.ts';
import { transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit, permitVersion } from '../people/access.ts';
import { Problem } from '../problem.ts';
import { updateTitle, versionOf, versionRow, type Titling } from './rows.ts';
import { lockFile } from './service.ts';

export async function titleVersion(
  by: Person,
  versionId: string,
  { title, description = '', starting = false }: Pick<Titling, 'title'> & Partial<Titling>,
): Promise<Version> {
  await permit(by, 'check out', await permitVersion(by, versionId), 'give titles');
  if (starting && title === null) throw new Problem(400, 'bad-input', 'A starting state needs a title.');
  const before = await versionRow(versionId);
  await transaction(async (client) => {
    const { file } = await lockFile(client, before.file_id);
    const place = { projectId: file.project_id, folderId: file.folder_id };
    await permit(by, 'check out', place, 'give titles', client);
    await updateTitle(client, versionId, { title, description, starting });
    await tell(client, { kind: 'version', file: before.file_id, project: file.project_id });
    const said = title === null ? 'without a title' : `“${title}”${starting ? ', a starting state' : ''}`;
    const subject = `${file.name} v${before.number}, ${said}`;
    await record(client, [
      { act: 'titled a version', by, subject, reason: description, projectId: file.project_id, fileId: before.file_id },
    ]);
  });
  return versionOf(await versionRow(versionId));
}
