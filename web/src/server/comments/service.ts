/** Comments: made on a version, and found again in others through the part that they belong to. */
import type { Person } from '../../contract/api.ts';
import type { Comment, Mention, NewComment } from '../../contract/comments.ts';
import { runTask, TooHeavy } from '../compute/pool.ts';
import { hasReader, sourceOf } from '../facts/subject.ts';
import type { Located } from '../compute/tasks/locate.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { permitFile, permitVersion, rightsAt, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { versionRow, type VersionRow } from '../versions/rows.ts';
import { mentionedIn } from './mentions.ts';
import {
  commentRows,
  mentionsIn,
  knownPlaces,
  keepPlace,
  nameAndProject,
  peopleNames,
  commentRow,
  insertReply,
  type CommentRow,
  type CommentPlace,
  insertComment,
  insertMentions,
  openMentions,
  settleComment,
} from './rows.ts';

/** Comments of a file as they stand in one version, oldest first. */
export async function listComments(by: Person, fileId: string, versionId: string): Promise<Comment[]> {
  await permitFile(by, 'see', fileId);
  const rights = await rightsAt(by, await permitVersion(by, versionId));
  // Whoever may not see older versions does not read either what was said of them.
  const rows = await commentRows(db(), fileId, rights.has('see old versions'), versionId);
  if (!rows.length) return [];
  const version = await versionRow(versionId);
  if (version.file_id !== fileId) throw notFound('version');
  const places = await placesIn(
    version,
    rows.filter((r) => r.part !== null && r.parent_id === null),
  );
  const mentions = await mentionsIn(
    db(),
    rows.map((r) => r.id),
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

function commentOf(
  r: CommentRow,
  replies: readonly CommentRow[],
  mentions: readonly { id: string; name: string }[],
  found: CommentPlace | null | undefined,
): Comment {
  const own =
    r.page !== null && r.x !== null && r.y !== null ? { page: r.page, x: r.x, y: r.y, box: null, part: null } : null;
  const place = found ? placeOf(found) : own;
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

const placeOf = ({ page, x, y, box, part }: CommentPlace): Comment['place'] => ({
  page,
  x,
  y,
  box: box ? [...box] : null,
  part,
});

/** Where the parts of comments are in a version: known from before, or found by matching, once for each content. */
async function placesIn(version: VersionRow, rows: readonly CommentRow[]): Promise<Map<string, CommentPlace | null>> {
  const out = new Map<string, CommentPlace | null>();
  const known = await knownPlaces(
    db(),
    rows.map((r) => r.id),
    version.content_id,
  );
  for (const k of known) out.set(k.comment_id, k.place);
  const byContent = new Map<string, CommentRow[]>();
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
      await keepPlace(db(), r.id, version.content_id, place === null ? null : JSON.stringify(place));
    }
  }
  return out;
}

async function followed(from: VersionRow, to: VersionRow, parts: readonly number[]): Promise<(Located | null)[]> {
  try {
    if (from.content_id === to.content_id)
      return await Promise.all(parts.map(async (part) => runTask('locate', { source: sourceOf(to), at: { part } })));
    return await runTask('follow', { a: sourceOf(from), b: sourceOf(to), parts });
  } catch (error) {
    if (error instanceof TooHeavy) return parts.map(() => null);
    throw error;
  }
}

/** The comment's point, as far from the middle of its part as it was. */
function moved(r: CommentRow, found: Located | null): CommentPlace | null {
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
  return { page: found.page, box, x, y, part: found.part };
}

export async function addComment(by: Person, fileId: string, { version, body, at }: NewComment): Promise<Comment> {
  await permitFile(by, 'see', fileId);
  await permitVersion(by, version);
  const row = await versionRow(version);
  if (row.file_id !== fileId) throw notFound('version');
  const found = at && hasReader(row) ? await runTask('locate', { source: sourceOf(row), at }) : null;
  if (at && 'part' in at && !found) throw new Problem(400, 'bad-input', 'This version has no such part.');
  const centre = found?.box
    ? ([(found.box[0] + found.box[2]) / 2, (found.box[1] + found.box[3]) / 2] as const)
    : undefined;
  const ofPart = found && centre ? ([found.page, ...centre] as const) : ([null, null, null] as const);
  const point = at && 'page' in at ? ([at.page, at.x, at.y] as const) : ofPart;
  const about = found && { ...found.about, box: found.box };
  const id = await transaction(async (client) => {
    const made = await insertComment(client, {
      ...{ fileId, versionId: version, personId: by.id, body, point },
      ...{ part: found?.part ?? null, about: about ? JSON.stringify(about) : null },
    });
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
  const file = await nameAndProject(client, fileId);
  if (!file) throw notFound('file');
  if (act === 'commented' && body.includes('@')) {
    const people = await peopleNames(client);
    const mentioned = mentionedIn(body, people).map((person) => person.id);
    await insertMentions(client, commentId, mentioned);
  }
  await tell(client, { kind: 'comment', file: fileId, project: file.project_id });
  await record(client, [
    { act, by, subject: `${file.name} ${of}`, reason: body.slice(0, 400), projectId: file.project_id, fileId },
  ]);
}

async function beginning(commentId: string): Promise<CommentRow> {
  const row = await commentRow(db(), commentId);
  if (!row) throw notFound('comment');
  if (row.parent_id) return beginning(row.parent_id);
  return row;
}

export async function reply(by: Person, commentId: string, body: string): Promise<void> {
  const row = await beginning(commentId);
  await permitFile(by, 'see', row.file_id);
  await transaction(async (client) => {
    const made = await insertReply(client, row.file_id, row.version_id, row.id, by.id, body);
    await afterwards(client, by, row.file_id, made?.id ?? '', body, 'commented', `v${row.number}`);
  });
}

/** Resolves a conversation, or opens it again. */
export async function resolve(by: Person, commentId: string, resolved: boolean): Promise<void> {
  const row = await beginning(commentId);
  await permitFile(by, 'see', row.file_id);
  await transaction(async (client) => {
    if (await settleComment(client, row.id, resolved ? by.id : null))
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
  const [seen, past] = await Promise.all([scopeOf(by, 'see'), scopeOf(by, 'see old versions')]);
  const rows = await openMentions(db(), by.id, seen, past);
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
