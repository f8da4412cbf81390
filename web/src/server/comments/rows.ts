/** Rows of comments, their mentions and their places. */
import { many, one, type Db } from '../db/pool.ts';
import type { Scope } from '../people/access.ts';
import { type Located } from '../compute/tasks/locate.ts';
import { ENGINE } from '@ovrel/core';
import { STORE } from '../store/copy.ts';

const commentSelect = `
  select c.id, c.file_id, c.version_id, v.number, v.content_id, c.parent_id, p.id as by_id, p.name as by_name, c.made_at, c.body,
    c.page, c.x, c.y, c.part, c.about, r.id as resolved_id, r.name as resolved_name, c.resolved_at
  from comment c join version v on v.store_id = c.store_id and v.id = c.version_id join person p on p.id = c.person_id left join person r on r.id = c.resolved_by`;

export interface CommentRow {
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

export const commentRows = (client: Db, fileId: string, all: boolean, versionId: string): Promise<CommentRow[]> =>
  many<CommentRow>(
    client,
    `${commentSelect} where c.file_id = $1 and ($2 or c.version_id = $3) order by c.made_at limit 5000`,
    [fileId, all, versionId],
  );

export const mentionsIn = (
  client: Db,
  commentIds: readonly string[],
): Promise<{ comment_id: string; id: string; name: string }[]> =>
  many(
    client,
    'select m.comment_id, p.id, p.name from comment_mention m join person p on p.id = m.person_id where m.comment_id = any($1)',
    [commentIds],
  );

export type CommentPlace = Pick<Located, 'page' | 'box' | 'part'> & { readonly x: number; readonly y: number };

export const knownPlaces = (
  client: Db,
  commentIds: readonly string[],
  contentId: string,
): Promise<{ comment_id: string; place: CommentPlace | null }[]> =>
  many(
    client,
    'select comment_id, place from comment_place where comment_id = any($1) and content_id = $2 and engine = $3',
    [commentIds, contentId, ENGINE],
  );

export async function keepPlace(client: Db, commentId: string, contentId: string, place: string | null): Promise<void> {
  await client.query(
    'insert into comment_place (comment_id, content_id, engine, place) values ($1, $2, $3, $4) on conflict do nothing',
    [commentId, contentId, ENGINE, place],
  );
}

export const nameAndProject = (client: Db, fileId: string): Promise<{ name: string; project_id: string } | undefined> =>
  one(client, 'select name, project_id from file where id = $1', [fileId]);

export const peopleNames = (client: Db): Promise<{ id: string; name: string }[]> =>
  many(client, `select id, name from person where state = 'active'`);

export const commentRow = (client: Db, commentId: string): Promise<CommentRow | undefined> =>
  one<CommentRow>(client, `${commentSelect} where c.id = $1`, [commentId]);

export const insertReply = (
  client: Db,
  fileId: string,
  versionId: string,
  parentId: string,
  personId: string,
  body: string,
): Promise<{ id: string } | undefined> =>
  one(
    client,
    'insert into comment (store_id, file_id, version_id, parent_id, person_id, body) values ($1, $2, $3, $4, $5, $6) returning id',
    [STORE, fileId, versionId, parentId, personId, body],
  );

interface NewComment {
  readonly fileId: string;
  readonly versionId: string;
  readonly personId: string;
  readonly body: string;
  /** Page, x and y. */
  readonly point: readonly [page: string | null, x: number | null, y: number | null];
  readonly part: number | null;
  readonly about: string | null;
}

export const insertComment = (client: Db, c: NewComment): Promise<{ id: string } | undefined> =>
  one(
    client,
    `insert into comment (store_id, file_id, version_id, person_id, body, page, x, y, part, about)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning id`,
    [STORE, c.fileId, c.versionId, c.personId, c.body, ...c.point, c.part, c.about],
  );

export async function insertMentions(client: Db, commentId: string, people: readonly string[]): Promise<void> {
  await client.query(
    'insert into comment_mention (comment_id, person_id) select $1, unnest($2::uuid[]) on conflict do nothing',
    [commentId, people],
  );
}

/** Resolved by somebody, or open again where that is null; true where that is a change. */
export const settleComment = async (client: Db, id: string, by: string | null): Promise<boolean> =>
  (await one(
    client,
    `update comment set resolved_by = $2, resolved_at = case when $2::uuid is null then null else now() end
     where id = $1 and (resolved_at is null) <> ($2::uuid is null) returning 1`,
    [id, by],
  )) !== undefined;

export interface MentionRow {
  readonly id: string;
  readonly file_id: string;
  readonly file_name: string;
  readonly version_id: string;
  readonly number: number;
  readonly by_id: string;
  readonly by_name: string;
  readonly made_at: Date;
  readonly body: string;
}

/**
 * Open conversations in which somebody is mentioned by others, newest first: where they may see the version that is
 * spoken of, which is the newest of the main line or any for those who see old ones.
 */
export function openMentions(client: Db, personId: string, scope: Scope, ofPast: Scope): Promise<MentionRow[]> {
  const values: unknown[] = [personId];
  const seen = scope.condition('f.project_id', 'f.folder_id', values);
  const past = ofPast.condition('f.project_id', 'f.folder_id', values);
  return many<MentionRow & Record<string, unknown>>(
    client,
    `select c.id, c.file_id, f.name as file_name, v.id as version_id, v.number, p.id as by_id, p.name as by_name,
       c.made_at, c.body
     from comment_mention m
     join comment c on c.id = m.comment_id
     join comment top on top.id = coalesce(c.parent_id, c.id)
     join file f on f.id = c.file_id
     join version v on v.store_id = c.store_id and v.id = c.version_id
     join person p on p.id = c.person_id
     where m.person_id = $1 and top.resolved_at is null and c.person_id <> $1 and ${seen}
       and (${past} or v.id = (
         select newest.id from line l join version newest on newest.store_id = v.store_id and newest.line_id = l.id
         where l.file_id = f.id and l.position = 0 order by newest.number desc limit 1))
     order by c.made_at desc limit 100`,
    values,
  );
}
