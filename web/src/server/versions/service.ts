import type { Person, RailColumns, Version, VersionDetail } from '../../contract/api.ts';
import { db, many, one, transaction, type Client, type Db } from '../db/pool.ts';
import { permit, permitVersion, placeOfFile, rightsAt } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { refuseHeldByOther } from '../checkouts/service.ts';
import { enqueue } from '../jobs/queue.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { newSet } from '../sets/sets.ts';
import { STORE } from '../store/copy.ts';
import { lookAt } from '../facts/look.ts';
import { summariseLater } from './prepare.ts';
import { versionOf, versionRow, versionSelect, type VersionRow } from './rows.ts';

const WINDOW = 200;
const LARGEST_WINDOW = 1000;

/** Number of the newest version, for those who see no other; undefined for those who see all. Other lines are old versions as a whole. */
async function oldestSeen(by: Person, fileId: string, line = 0): Promise<number | undefined> {
  const place = await placeOfFile(fileId);
  const held = await rightsAt(by, place);
  if (held.has('see old versions')) return undefined;
  if (line > 0 || place.deleted || !held.has('see'))
    await permit(by, held.has('see') ? 'see old versions' : 'see', place);
  return (await newestOf(db(), fileId))?.number;
}

/** Versions of a file's main line, or of the line at that position, oldest first: those with numbers from `from` to `to`, or the newest 200. */
export async function listVersions(
  by: Person,
  fileId: string,
  { from, to, line }: { from?: number | undefined; to?: number | undefined; line?: number | undefined } = {},
): Promise<Version[]> {
  const oldest = await oldestSeen(by, fileId, line);
  if (from !== undefined && to !== undefined && to - from >= LARGEST_WINDOW)
    throw new Problem(400, 'bad-input', `Ask for at most ${LARGEST_WINDOW.toLocaleString('en')} versions at a time.`);
  const newest = await newestOf(db(), fileId, line);
  if (!newest) throw notFound('file');
  const last = Math.min(to ?? (from === undefined ? newest.number : from + WINDOW - 1), newest.number);
  const first = Math.max(from ?? last - WINDOW + 1, oldest ?? 0);
  const rows = await many<VersionRow>(
    db(),
    `${versionSelect} where v.store_id = $1 and v.line_id = $2 and v.number between $3 and $4 order by v.number`,
    [STORE, newest.line_id, first, last],
  );
  await summariseLater(fileId, rows);
  return rows.map(versionOf);
}

/** What the rail shows of all versions of a line. */
export async function railOf(by: Person, fileId: string, position = 0): Promise<RailColumns> {
  const oldest = (await oldestSeen(by, fileId, position)) ?? 0;
  const newest = await newestOf(db(), fileId, position);
  if (!newest) throw notFound('file');
  const key = [STORE, newest.line_id, oldest];
  const people = await many<{ id: string; name: string }>(db(), 'select id, name from person order by created_at');
  const [columns, lines, special] = await Promise.all([
    one<{ first: number; at: string; kinds: string; by: string }>(
      db(),
      `
      select min(number) as first, string_agg(extract(epoch from made_at)::bigint::text, ',') as at, string_agg(left(kind, 1), '') as kinds,
        string_agg((array_position($4::uuid[], made_by) - 1)::text, ',') as by
      from (select number, made_at, kind, made_by from version where store_id = $1 and line_id = $2 and number >= $3 order by number) in_order`,
      [...key, people.map((p) => p.id)],
    ),
    many<{ position: number; name: string; from: number | null }>(
      db(),
      `
      select l.position, l.name, (select v.number from version v where v.store_id = $1 and v.id = l.from_id) as from from line l where l.file_id = $2 and (l.position = 0 or $3 = 0) order by l.position`,
      [STORE, fileId, oldest],
    ),
    many<{ number: number; title: string | null; source: number | null }>(
      db(),
      `
      select v.number, v.title, source.number as source from version v
      left join version source on source.store_id = v.store_id and source.id = v.source_id
      where v.store_id = $1 and v.line_id = $2 and v.number >= $3 and (v.title is not null or v.source_id is not null) order by v.number`,
      key,
    ),
  ]);
  const numbers = (text: string | undefined): number[] => text?.split(',').map(Number) ?? [];
  return {
    first: columns?.first ?? 1,
    at: numbers(columns?.at),
    kinds: columns?.kinds ?? '',
    by: numbers(columns?.by),
    people,
    lines,
    titles: special.flatMap((v) => (v.title === null ? [] : [[v.number, v.title] satisfies [number, string]])),
    sources: special.flatMap((v) => (v.source === null ? [] : [[v.number, v.source] satisfies [number, number]])),
  };
}

export async function getVersion(by: Person, id: string, again = false): Promise<VersionDetail> {
  await permitVersion(by, id);
  const row = await versionRow(id);
  return { ...versionOf(row), look: await lookAt(row, { again }) };
}

export interface NewVersion {
  readonly fileId: string;
  readonly contentId: string;
  readonly note: string;
  readonly uploadName: string;
  readonly kind?: Version['kind'];
  readonly sourceId?: string;
  readonly by: string;
  readonly setId: string;
  /** Only the demo's loader says when. */
  readonly at?: Date;
  readonly title?: string;
}

export interface Newest {
  readonly id: string;
  readonly number: number;
  readonly content_id: string;
  readonly line_id: string;
}

/** Locks the file until the end of the transaction, so that versions land one after another; gives its newest version. */
export async function lockFile(client: Client, fileId: string): Promise<Newest | undefined> {
  const file = await one<{ name: string; deleted_in: string | null }>(
    client,
    'select name, deleted_in from file where id = $1 for update',
    [fileId],
  );
  if (!file) throw notFound('file');
  if (file.deleted_in) throw new Problem(409, 'deleted', `“${file.name}” is deleted. Bring it back first.`);
  return newestOf(client, fileId);
}

export const newestOf = (client: Db, fileId: string, position = 0): Promise<Newest | undefined> =>
  one<Newest>(
    client,
    `
  select id, number, content_id, line_id from version
  where store_id = $1 and line_id = (select id from line where file_id = $2 and position = $3) order by number desc limit 1`,
    [STORE, fileId, position],
  );

/** Adds a version after the newest one, and puts into the queue what follows from it. The file must be locked. */
export async function appendVersion(client: Client, newest: Newest | undefined, v: NewVersion): Promise<string> {
  const lineId =
    newest?.line_id ??
    (
      await one<{ id: string }>(
        client,
        `insert into line (file_id, name, position) values ($1, 'main line', 0) returning id`,
        [v.fileId],
      )
    )?.id;
  const id = await insertVersion(client, lineId ?? '', (newest?.number ?? 0) + 1, newest?.id ?? null, v);
  await client.query(
    'update project set files = files + $3, changed_at = greatest(changed_at, coalesce($2, now())) where id = (select project_id from file where id = $1)',
    [v.fileId, v.at ?? null, newest ? 0 : 1],
  );
  return id;
}

async function insertVersion(
  client: Client,
  lineId: string,
  number: number,
  parentId: string | null,
  v: NewVersion,
): Promise<string> {
  const row = await one<{ id: string }>(
    client,
    `
    insert into version (store_id, file_id, line_id, number, content_id, parent_id, source_id, kind, note, title, upload_name, made_by, made_at, set_id)
    values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, coalesce($13, now()), $14) returning id`,
    [
      STORE,
      v.fileId,
      lineId,
      number,
      v.contentId,
      parentId,
      v.sourceId ?? null,
      v.kind ?? 'check-in',
      v.note,
      v.title ?? null,
      v.uploadName,
      v.by,
      v.at ?? null,
      v.setId,
    ],
  );
  if (!row) throw new Error('a version was not inserted');
  const said = `${v.uploadName} v${number}`;
  await enqueue(client, {
    kind: 'look',
    key: row.id,
    title: `Looking into ${said}`,
    data: { versionId: row.id },
    by: v.by,
  });
  await enqueue(client, {
    kind: 'pack',
    key: row.id,
    title: `Making ${said} smaller`,
    data: { fileId: v.fileId },
    by: v.by,
  });
  return row.id;
}

/** Starts a line of its own from a version, with `v` as its first; its numbers go on from there. The file must be locked. */
export async function branchFrom(
  client: Client,
  fromId: string,
  v: NewVersion,
  by: Person,
): Promise<{ id: string; number: number; line: string }> {
  const from = await one<{ number: number; file_id: string }>(
    client,
    'select number, file_id from version where store_id = $1 and id = $2',
    [STORE, fromId],
  );
  if (from?.file_id !== v.fileId) throw notFound('version');
  const line = await one<{ id: string; name: string }>(
    client,
    `
    insert into line (file_id, name, position, from_id)
    select $1, $2 || case when count(*) filter (where name like $2 || '%') > 0 then ' ' || count(*) filter (where name like $2 || '%') + 1 else '' end, max(position) + 1, $3 from line where file_id = $1
    returning id, name`,
    [v.fileId, `branch of ${by.name}`, fromId],
  );
  if (!line) throw new Error('a line was not inserted');
  return {
    id: await insertVersion(client, line.id, from.number + 1, fromId, v),
    number: from.number + 1,
    line: line.name,
  };
}

/** Makes an older version's content the newest version. Nothing is removed. */
export async function bringForward(by: Person, versionId: string, note: string, at?: Date): Promise<Version> {
  await permit(by, 'bring forward', await permitVersion(by, versionId));
  const source = await versionRow(versionId);
  const id = await transaction(async (client) => {
    const newest = await lockFile(client, source.file_id);
    await refuseHeldByOther(client, source.file_id, by);
    if (newest?.content_id === source.content_id) {
      throw new Problem(
        409,
        'already-newest',
        newest.id === source.id
          ? `v${source.number} is the newest version already.`
          : `The newest version, v${newest.number}, already has the content of v${source.number}.`,
      );
    }
    const file = await one<{ name: string; project_id: string }>(
      client,
      'select name, project_id from file where id = $1',
      [source.file_id],
    );
    if (!file) throw notFound('file');
    const said = `Brought forward from v${source.number}`;
    const why = note.trim() ? `${said}: ${note.trim()}` : `${said}.`;
    const set = await newSet(client, { projectId: file.project_id, kind: 'bring forward', note: why, by: by.id, at });
    const made = await appendVersion(client, newest, {
      fileId: source.file_id,
      contentId: source.content_id,
      uploadName: source.upload_name,
      sourceId: source.id,
      by: by.id,
      note: why,
      setId: set.id,
      ...(at ? { at } : {}),
    });
    await tell(client, { kind: 'version', file: source.file_id, project: file.project_id });
    await record(client, [
      {
        act: 'brought forward',
        by,
        subject: `${file.name} v${source.number}, as v${(newest?.number ?? 0) + 1}`,
        reason: note.trim(),
        projectId: file.project_id,
        fileId: source.file_id,
        at,
      },
    ]);
    return made;
  });
  return versionOf(await versionRow(id));
}
