/** Comments: made on a version, and found again in others through the part that they belong to. */
import { ENGINE } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { Comment, Mention, NewComment } from '../../contract/comments.ts';
import { runTask, TooHeavy } from '../compute/pool.ts';
import { hasReader, sourceOf } from '../facts/subject.ts';
import type { Located } from '../compute/tasks/locate.ts';
import { db, many, one, transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permitFile, permitVersion, rightsAt, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { STORE } from '../store/copy.ts';
import { versionRow, type VersionRow } from '../versions/rows.ts';
import { mentionedIn } from './mentions.ts';

interface Row {
  id: string;
  file_id: string;
  version_id: string;
  number: number;
  content_id: string;
  parent_id: string | null;
  by_id: string;
  by_name: string;
  made_at: Date;
  body: string;
  page: string | null;
  x: number | null;
  y: number | null;
  part: number | null;
  about: Located['about'] | null;
  resolved_id: string | null;
  resolved_name: string | null;
  resolved_at: Date | null;
}

const commentSelect = `
  select c.id, c.file_id, c.version_id, v.number, v.content_id, c.parent_id, p.id as by_id, p.name as by_name, c.made_at, c.body,
    c.page, c.x, c.y, c.part, c.about, r.id as resolved_id, r.name as resolved_name, c.resolved_at
  from comment c join version v on v.store_id = c.store_id and v.id = c.version_id join person p on p.id = c.person_id left join person r on r.id = c.resolved_by`;

/** Comments of a file as they stand in one version, oldest first. */
export async function listComments(by: Person, fileId: string, versionId: string): Promise<Comment[]> {
  await permitFile(by, 'see', fileId);
  const rights = await rightsAt(by, await permitVersion(by, versionId));
  // Whoever may not see older versions does not read either what was said of them.
  const rows = await many<Row>(
    db(),
    `${commentSelect} where c.file_id = $1 and ($2 or c.version_id = $3) order by c.made_at limit 5000`,
    [fileId, rights.has('see old versions'), versionId],
  );
  if (!rows.length) return [];
  const version = await versionRow(versionId);
  if (version.file_id !== fileId) throw notFound('version');
  const places = await placesIn(
    version,
    rows.filter((r) => r.part !== null && r.parent_id === null),
  );
  const mentions = await many<{ comment_id: string; id: string; name: string }>(
    db(),
    'select m.comment_id, p.id, p.name from comment_mention m join person p on p.id = m.person_id where m.comment_id = any($1)',
    [rows.map((r) => r.id)],
  );
  return rows
    .filter((r) => r.parent_id === null)
    .map((r) =>
      commentOf(
        r,
        rows.filter((x) => x.parent_id === r.id),
        mentions.filter((m) => m.comment_id === r.id),
        places.get(r.id),
      ),
    );
}

type Place = Pick<Located, 'page' | 'box'> & { readonly x: number; readonly y: number };

function commentOf(
  r: Row,
  replies: readonly Row[],
  mentions: readonly { id: string; name: string }[],
  found: Place | null | undefined,
): Comment {
  const own = r.page !== null && r.x !== null && r.y !== null ? { page: r.page, x: r.x, y: r.y, box: null } : null;
  const place = found ? { page: found.page, x: found.x, y: found.y, box: found.box ? [...found.box] : null } : own;
  return {
    id: r.id,
    fileId: r.file_id,
    by: { id: r.by_id, name: r.by_name },
    at: r.made_at.toISOString(),
    body: r.body,
    mentions: mentions.map(({ id, name }) => ({ id, name })),
    madeOn: { id: r.version_id, number: r.number },
    about: r.about,
    place,
    lost: found === null,
    resolved:
      r.resolved_id && r.resolved_at
        ? { by: { id: r.resolved_id, name: r.resolved_name ?? '' }, at: r.resolved_at.toISOString() }
        : null,
    replies: replies.map((x) => ({
      id: x.id,
      by: { id: x.by_id, name: x.by_name },
      at: x.made_at.toISOString(),
      body: x.body,
    })),
  };
}

/** Where the parts of comments are in a version: known from before, or found by matching, once for each content. */
async function placesIn(version: VersionRow, rows: readonly Row[]): Promise<Map<string, Place | null>> {
  const out = new Map<string, Place | null>();
  const known = await many<{ comment_id: string; place: Place | null }>(
    db(),
    'select comment_id, place from comment_place where comment_id = any($1) and content_id = $2 and engine = $3',
    [rows.map((r) => r.id), version.content_id, ENGINE],
  );
  for (const k of known) out.set(k.comment_id, k.place);
  const byContent = new Map<string, Row[]>();
  for (const r of rows) if (!out.has(r.id)) byContent.set(r.content_id, [...(byContent.get(r.content_id) ?? []), r]);
  for (const group of byContent.values()) {
    const [first] = group;
    if (!first || !hasReader(version)) continue;
    const found = await followed(
      await versionRow(first.version_id),
      version,
      group.map((r) => r.part ?? -1),
    );
    for (const [i, r] of group.entries()) {
      const place = moved(r, found[i] ?? null);
      out.set(r.id, place);
      await db().query(
        'insert into comment_place (comment_id, content_id, engine, place) values ($1, $2, $3, $4) on conflict do nothing',
        [r.id, version.content_id, ENGINE, place === null ? null : JSON.stringify(place)],
      );
    }
  }
  return out;
}

async function followed(from: VersionRow, to: VersionRow, parts: readonly number[]): Promise<(Located | null)[]> {
  try {
    if (from.content_id === to.content_id)
      return await Promise.all(
        parts.map(async (part) => runTask('locate', { source: await sourceOf(to), at: { part } })),
      );
    return await runTask('follow', { a: await sourceOf(from), b: await sourceOf(to), parts });
  } catch (error) {
    if (error instanceof TooHeavy) return parts.map(() => null);
    throw error;
  }
}

/** The comment's point, as far from the middle of its part as it was. */
function moved(r: Row, found: Located | null): Place | null {
  if (!found) return null;
  const { box } = found;
  const was = (r.about as { box?: readonly number[] | null } | null)?.box;
  const middle = (b: readonly number[]): [number, number] => [
    ((b[0] ?? 0) + (b[2] ?? 0)) / 2,
    ((b[1] ?? 0) + (b[3] ?? 0)) / 2,
  ];
  const now = box ? middle(box) : undefined;
  const then = was ? middle(was) : undefined;
  const x = now && then && r.x !== null ? r.x + now[0] - then[0] : (now?.[0] ?? r.x ?? 0);
  const y = now && then && r.y !== null ? r.y + now[1] - then[1] : (now?.[1] ?? r.y ?? 0);
  return { page: found.page, box, x, y };
}

export async function addComment(by: Person, fileId: string, { version, body, at }: NewComment): Promise<Comment> {
  await permitFile(by, 'see', fileId);
  await permitVersion(by, version);
  const row = await versionRow(version);
  if (row.file_id !== fileId) throw notFound('version');
  const found = at && hasReader(row) ? await runTask('locate', { source: await sourceOf(row), at }) : null;
  if (at && 'part' in at && !found) throw new Problem(400, 'bad-input', 'This version has no such part.');
  const centre = found?.box
    ? ([(found.box[0] + found.box[2]) / 2, (found.box[1] + found.box[3]) / 2] as const)
    : undefined;
  const point =
    at && 'page' in at
      ? ([at.page, at.x, at.y] as const)
      : found && centre
        ? ([found.page, ...centre] as const)
        : ([null, null, null] as const);
  const about = found && { ...found.about, box: found.box };
  const id = await transaction(async (client) => {
    const made = await one<{ id: string }>(
      client,
      `
      insert into comment (store_id, file_id, version_id, person_id, body, page, x, y, part, about) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning id`,
      [STORE, fileId, version, by.id, body, ...point, found?.part ?? null, about ? JSON.stringify(about) : null],
    );
    await afterwards(client, by, fileId, made?.id ?? '', body, 'commented', `v${row.number}`);
    return made?.id;
  });
  const all = await listComments(by, fileId, version);
  const mine = all.find((c) => c.id === id);
  if (!mine) throw notFound('comment');
  return mine;
}

/** Mentions, the page that is open elsewhere, and the ledger, last. */
async function afterwards(
  client: Client,
  by: Person,
  fileId: string,
  commentId: string,
  body: string,
  act: 'commented' | 'resolved a comment' | 'opened a comment again',
  of: string,
): Promise<void> {
  const file = await one<{ name: string; project_id: string }>(
    client,
    'select name, project_id from file where id = $1',
    [fileId],
  );
  if (!file) throw notFound('file');
  if (act === 'commented' && body.includes('@')) {
    const people = await many<{ id: string; name: string }>(client, 'select id, name from person');
    for (const person of mentionedIn(body, people))
      await client.query('insert into comment_mention (comment_id, person_id) values ($1, $2) on conflict do nothing', [
        commentId,
        person.id,
      ]);
  }
  await tell(client, { kind: 'comment', file: fileId, project: file.project_id });
  await record(client, [
    { act, by, subject: `${file.name} ${of}`, reason: body.slice(0, 400), projectId: file.project_id, fileId },
  ]);
}

async function beginning(commentId: string): Promise<Row> {
  const row = await one<Row>(db(), `${commentSelect} where c.id = $1`, [commentId]);
  if (!row) throw notFound('comment');
  if (row.parent_id) return beginning(row.parent_id);
  return row;
}

export async function reply(by: Person, commentId: string, body: string): Promise<void> {
  const row = await beginning(commentId);
  await permitFile(by, 'see', row.file_id);
  await transaction(async (client) => {
    const made = await one<{ id: string }>(
      client,
      'insert into comment (store_id, file_id, version_id, parent_id, person_id, body) values ($1, $2, $3, $4, $5, $6) returning id',
      [STORE, row.file_id, row.version_id, row.id, by.id, body],
    );
    await afterwards(client, by, row.file_id, made?.id ?? '', body, 'commented', `v${row.number}`);
  });
}

/** Resolves a conversation, or opens it again. */
export async function resolve(by: Person, commentId: string, resolved: boolean): Promise<void> {
  const row = await beginning(commentId);
  await permitFile(by, 'see', row.file_id);
  await transaction(async (client) => {
    const done = await client.query(
      'update comment set resolved_by = $2, resolved_at = $3 where id = $1 and (resolved_at is not null) <> $4',
      [row.id, resolved ? by.id : null, resolved ? new Date() : null, resolved],
    );
    if (done.rowCount)
      await afterwards(
        client,
        by,
        row.file_id,
        row.id,
        row.body,
        resolved ? 'resolved a comment' : 'opened a comment again',
        `v${row.number}`,
      );
  });
}

/** Open conversations in which somebody is mentioned, newest first. */
export async function listMentions(by: Person): Promise<Mention[]> {
  const values: unknown[] = [by.id];
  const seen = (await scopeOf(by, 'see')).condition('f.project_id', 'f.folder_id', values);
  const rows = await many<Row & { file_name: string; version_id: string }>(
    db(),
    `
    select c.id, c.file_id, f.name as file_name, v.id as version_id, v.number, p.id as by_id, p.name as by_name, c.made_at, c.body
    from comment_mention m join comment c on c.id = m.comment_id join comment top on top.id = coalesce(c.parent_id, c.id) join file f on f.id = c.file_id
    join version v on v.store_id = c.store_id and v.id = c.version_id join person p on p.id = c.person_id
    where m.person_id = $1 and top.resolved_at is null and c.person_id <> $1 and ${seen} order by c.made_at desc limit 100`,
    values,
  );
  return rows.map((r) => ({
    id: r.id,
    fileId: r.file_id,
    fileName: r.file_name,
    version: r.number,
    versionId: r.version_id,
    by: { id: r.by_id, name: r.by_name },
    at: r.made_at.toISOString(),
    body: r.body,
  }));
}
