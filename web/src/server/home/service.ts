/** The first page: what happened since somebody was last here, what waits for them, and their projects. */
import { cardOf, isDrawable } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { LedgerEntry } from '../../contract/desk.ts';
import type { Home, News, Tile } from '../../contract/home.ts';
import { db } from '../db/pool.ts';
import { goingOfMine } from '../keeping/service.ts';
import type { Act } from '../ledger/ledger.ts';
import { permitFile, scopeOf, type Scope } from '../people/access.ts';
import { listProjects } from '../projects/service.ts';
import {
  activityRows,
  askRows,
  beHere,
  heldBy,
  isFollowed,
  lastVisit,
  latestVersions,
  newsRows,
  putFollow,
  WEEKS,
  workingRows,
  type NewsRow,
} from './rows.ts';

/** Entries that are looked through, and what is told of them. */
const MOST_ENTRIES = 300;
const MOST_NEWS = 30;
const GOING_DAYS = 7;

/** Acts that others want to know of. */
const newsworthy: readonly Act[] = [
  ...(['checked in', 'saved', 'took in', 'left without keeping', 'brought forward', 'branched off'] as const),
  ...(['took back', 'carried over', 'joined', 'erased', 'swept', 'titled a version', 'set aside'] as const),
  ...(['deleted', 'brought back', 'took over', 'commented', 'changed a file'] as const),
];

export async function homeOf(by: Person): Promise<Home> {
  const [past, open] = [await scopeOf(by, 'see old versions'), await scopeOf(by, 'see')];
  const since = await lastVisit(db(), by.id);
  const [news, asks, held, going, projects] = await Promise.all([
    newsRows(db(), by.id, { since, acts: newsworthy, scope: past, most: MOST_ENTRIES }),
    askRows(db(), by.id),
    heldBy(db(), by.id),
    goingOfMine(by, GOING_DAYS),
    tilesOf(by, open),
  ]);
  return {
    since: since?.toISOString() ?? null,
    news: inRuns(news).slice(0, MOST_NEWS),
    asks: asks.map((row) => ({
      file: fileOf(row),
      by: { id: row.by_id, name: row.by_name },
      reason: row.reason,
      at: row.at.toISOString(),
    })),
    held: held.map((row) => ({
      file: fileOf(row),
      line: row.position === 0 ? null : row.line,
      at: row.at.toISOString(),
    })),
    going,
    projects,
  };
}

/** The person looks at the page: what is told now is no news at their next visit. */
export const visit = (by: Person): Promise<void> => beHere(db(), by.id);

interface OfFile {
  readonly file_id: string;
  readonly file: string;
  readonly project_id: string;
  readonly project: string;
}
const fileOf = (row: OfFile): News['file'] => ({
  id: row.file_id,
  name: row.file,
  projectId: row.project_id,
  project: row.project,
});

/** The same done by the same person to the same file, one after another, is told once. */
function inRuns(rows: readonly NewsRow[]): News[] {
  const news: News[] = [];
  for (const row of rows) {
    const { seq, at, by, act, subject, reason } = JSON.parse(row.entry) as LedgerEntry;
    const before = news.at(-1);
    const isSame = before?.act === act && before.by?.id === by?.id && before.file.id === row.file_id;
    if (isSame) news[news.length - 1] = { ...before, times: before.times + 1 };
    else news.push({ entry: seq, at, by, act, times: 1, subject, reason, file: fileOf(row), picture: pictureOf(row) });
  }
  return news;
}

function pictureOf(row: NewsRow): News['picture'] {
  if (row.made_id !== null) return { versionId: row.made_id, format: row.made_format };
  return row.newest_id === null ? null : { versionId: row.newest_id, format: row.newest_format };
}

async function tilesOf(by: Person, scope: Scope): Promise<Tile[]> {
  const projects = await listProjects(by);
  const ids = projects.map(({ id }) => id);
  const [latest, working, activity] = await Promise.all([
    latestVersions(db(), ids, scope),
    workingRows(db(), ids, scope),
    activityRows(db(), ids, scope),
  ]);
  const lately = projects.toSorted((a, b) => (b.changedAt ?? b.createdAt).localeCompare(a.changedAt ?? a.createdAt));
  return lately.map((project) => {
    const versions = latest.filter((row) => row.project_id === project.id);
    const shown = versions.find(({ format }) => isDrawable(cardOf(format)));
    return {
      ...project,
      picture: shown ? { versionId: shown.id, format: shown.format } : null,
      working: working
        .filter((row) => row.project_id === project.id && row.id !== by.id)
        .map(({ id, name, how }) => ({ id, name, how })),
      activity: weeksOf(activity.filter((row) => row.project_id === project.id)),
    };
  });
}

/** From the longest ago to this week. */
function weeksOf(rows: readonly { readonly ago: number; readonly n: number }[]): number[] {
  const weeks = new Array<number>(WEEKS).fill(0);
  for (const { ago, n } of rows) if (ago < WEEKS) weeks[WEEKS - 1 - ago] = n;
  return weeks;
}

export async function follows(by: Person, fileId: string): Promise<{ follows: boolean }> {
  await permitFile(by, 'see', fileId);
  return { follows: await isFollowed(db(), by.id, fileId) };
}

export async function follow(by: Person, fileId: string, wanted: boolean): Promise<{ follows: boolean }> {
  await permitFile(by, 'see', fileId);
  await putFollow(db(), by.id, fileId, wanted);
  return follows(by, fileId);
}
