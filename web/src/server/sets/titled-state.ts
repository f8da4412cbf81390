/** The state that a place is in gets a title: the newest version of each file becomes a keeper. */
import type { z } from 'zod';
import type { Person } from '../../contract/api.ts';
import type { titledStateSchema, titleStateSchema } from '../../contract/as-of.ts';
import { transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permit, scopeIn } from '../people/access.ts';
import { titleUntitled } from '../versions/rows.ts';
import { lockFile } from '../versions/service.ts';
import { seenRows } from './as-of.ts';

const DOING = 'give titles';

/** Of files that one may work on, in a folder with all below it. Titles that are there already stay. */
export async function titleState(
  by: Person,
  projectId: string,
  { folder, title, description }: z.output<typeof titleStateSchema>,
): Promise<z.infer<typeof titledStateSchema>> {
  const scope = await scopeIn(by, 'check out', projectId, DOING);
  const { rows } = await seenRows(by, projectId, new Date().toISOString(), folder);
  const files = rows
    .filter((row) => !row.deleted && scope.has(projectId, row.folder_id))
    .map((row) => row.file_id)
    .sort();
  const titled = await transaction((client) => titleNewest(client, by, projectId, files, { title, description }));
  return { titled, files: files.length, sentence: said(titled, files.length, title) };
}

interface Words {
  readonly title: string;
  readonly description: string;
}

async function titleNewest(
  client: Client,
  by: Person,
  projectId: string,
  fileIds: readonly string[],
  words: Words,
): Promise<number> {
  const newest: string[] = [];
  for (const id of fileIds) {
    const locked = await lockFile(client, id);
    await permit(by, 'check out', { projectId, folderId: locked.file.folder_id }, DOING, client);
    if (locked.newest) newest.push(locked.newest.id);
  }
  const titled = await titleUntitled(client, newest, words);
  for (const { file_id: file } of titled) await tell(client, { kind: 'version', file, project: projectId });
  const subject = `The newest of ${titled.length === 1 ? 'one file' : `${titled.length} files`}, “${words.title}”`;
  if (titled.length > 0)
    await record(client, [{ act: 'titled a version', by, subject, reason: words.description, projectId }]);
  return titled.length;
}

function said(titled: number, files: number, title: string): string {
  if (files === 0) return 'There are no files here that you may give titles to.';
  if (titled === 0) return 'The newest versions here all have titles already.';
  const rest = files - titled;
  const kept =
    rest === 0 ? '' : ` ${rest === 1 ? 'One keeps the title that it has' : `${rest} keep the titles that they have`}.`;
  return `The newest version of ${titled === 1 ? 'one file' : `${titled} files`} is called “${title}” now, and stays.${kept}`;
}
