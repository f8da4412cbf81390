/** Rows of the ledger. */
import { many, one, type Db } from '../db/pool.ts';
import { literally } from '../projects/rows.ts';
import type { ledgerQuerySchema } from '../../contract/desk.ts';
import type { z } from 'zod';
import type { VersionFilter } from '../../contract/version-filter.ts';
import { passes } from '../versions/filter.ts';
import type { Scope } from '../people/access.ts';
import { STORE } from '../store/copy.ts';
import { versionSelect, type VersionRow } from '../versions/rows.ts';

/** Key of the lock under which entries are added. */
const LOCK = 0x0772_e102;

export async function lockLedger(client: Db): Promise<void> {
  await client.query('select pg_advisory_xact_lock($1)', [LOCK]);
}

export const lastEntry = (client: Db): Promise<{ seq: string; hash: Buffer } | undefined> =>
  one(client, 'select seq, hash from ledger where store_id = $1 order by seq desc limit 1', [STORE]);

export const actsKnown = (client: Db): Promise<{ act: string }[]> =>
  many(client, 'select distinct act from ledger where store_id = $1 order by act', [STORE]);

export const peopleKnown = (client: Db): Promise<{ id: string; name: string }[]> =>
  many(client, 'select id, name from person order by name');

export const entriesAfter = (
  client: Db,
  seq: number,
): Promise<
  {
    seq: string;
    at: Date;
    person_id: string | null;
    act: string;
    project_id: string | null;
    file_id: string | null;
    entry: string;
    hash: Buffer;
  }[]
> =>
  many(
    client,
    'select seq, at, person_id, act, project_id, file_id, entry, hash from ledger where store_id = $1 and seq > $2 order by seq limit 1000',
    [STORE, seq],
  );

export const PAGE = 100;

/** Versions of a file that a filter lets through, the latest first. */
export function versionsBefore(
  client: Db,
  fileId: string,
  before: string | undefined,
  filter: VersionFilter,
): Promise<VersionRow[]> {
  const values: unknown[] = [STORE, fileId, before ?? null];
  const passing = passes(filter, values);
  return many<VersionRow & Record<string, unknown>>(
    client,
    `${versionSelect} where v.store_id = $1 and v.file_id = $2 and ($3::timestamptz is null or v.made_at < $3)
       and ${passing}
     order by v.made_at desc, v.number desc limit ${PAGE + 1}`,
    values,
  );
}

/** Ids of versions of a file that a filter lets through. */
export async function versionsThrough(client: Db, fileId: string, filter: VersionFilter): Promise<string[]> {
  const values: unknown[] = [STORE, fileId];
  const passing = passes(filter, values);
  const rows = await many<{ id: string }>(
    client,
    `select v.id from version v where v.store_id = $1 and v.file_id = $2 and ${passing}`,
    values,
  );
  return rows.map(({ id }) => id);
}

/** How many versions of a file a filter leaves out. */
export async function countFilteredOut(client: Db, fileId: string, filter: VersionFilter): Promise<number> {
  const values: unknown[] = [STORE, fileId];
  const passing = passes(filter, values);
  const row = await one<{ n: number } & Record<string, unknown>>(
    client,
    `select count(*) filter (where not (${passing}))::int as n from version v where v.store_id = $1 and v.file_id = $2`,
    values,
  );
  return row?.n ?? 0;
}

/** Acts that made no version, by the same person and on the same days as a filter of versions says. */
export const actsBefore = (
  client: Db,
  fileId: string,
  before: string | undefined,
  makingVersions: readonly string[],
  { person, from, to }: VersionFilter,
): Promise<{ entry: string }[]> =>
  many(
    client,
    `
    select entry from ledger
    where store_id = $1 and file_id = $2 and act <> all($4) and ($3::timestamptz is null or at < $3)
      and ($5::uuid is null or person_id = $5)
      and ($6::timestamp is null or at >= $6::timestamp at time zone 'UTC')
      and ($7::timestamp is null or at < ($7::timestamp + interval '1 day') at time zone 'UTC')
    order by at desc, seq desc limit ${PAGE + 1}`,
    [STORE, fileId, before ?? null, makingVersions, person ?? null, from ?? null, to ?? null],
  );

interface NewRow {
  readonly seq: number;
  readonly at: Date;
  readonly person: string | null;
  readonly act: string;
  readonly projectId: string | null;
  readonly fileId: string | null;
  readonly entry: string;
  readonly hash: Buffer;
}

export async function insertEntries(client: Db, rows: readonly NewRow[]): Promise<void> {
  await client.query(
    `insert into ledger (store_id, seq, at, person_id, act, project_id, file_id, entry, hash)
     select $1, * from unnest($2::bigint[], $3::timestamptz[], $4::uuid[], $5::text[], $6::uuid[], $7::uuid[],
                              $8::text[], $9::bytea[])`,
    [
      STORE,
      ...[rows.map((r) => r.seq), rows.map((r) => r.at), rows.map((r) => r.person), rows.map((r) => r.act)],
      ...[rows.map((r) => r.projectId), rows.map((r) => r.fileId), rows.map((r) => r.entry), rows.map((r) => r.hash)],
    ],
  );
}

export type Query = z.infer<typeof ledgerQuerySchema>;

/** A condition on entries, with what it compares with. */
export interface Matching {
  readonly text: string;
  readonly values: readonly unknown[];
}

/** What is asked for, as far as the scope goes. */
export function conditions(query: Query, scope: Scope): Matching {
  const values: unknown[] = [STORE];
  const parts = ['store_id = $1'];
  const add = (value: unknown, text: (place: string) => string): void => {
    if (value !== undefined) parts.push(text(`$${values.push(value)}`));
  };
  add(query.project, (p) => `project_id = ${p}`);
  add(query.file, (p) => `file_id = ${p}`);
  add(query.person, (p) => `person_id = ${p}`);
  add(query.act, (p) => `act = ${p}`);
  const words = query.words?.trim() ? literally(query.words.trim()) : undefined;
  add(words, (p) => `lower((entry::json->>'subject') || ' ' || (entry::json->>'reason')) like '%' || ${p} || '%'`);
  add(query.since, (p) => `at >= ${p}`);
  add(query.until, (p) => `at <= ${p}`);
  add(query.before, (p) => `seq < ${p}`);
  if (!scope.everywhere) {
    const ofProject = scope.condition('project_id', 'null::uuid', values);
    const ofFile = scope.condition('f.project_id', 'f.folder_id', values);
    parts.push(`(project_id is null or case when file_id is null then ${ofProject}
      else exists (select 1 from file f where f.id = ledger.file_id and ${ofFile}) end)`);
  }
  return { text: parts.join(' and '), values };
}

export const latestEntries = (
  client: Db,
  { text, values }: Matching,
  most: number,
): Promise<{ entry: string; hash: Buffer }[]> =>
  many(client, `select entry, hash from ledger where ${text} order by seq desc limit ${most}`, [...values]);

/** A thousand entries after a number, oldest first. */
export const entriesOnward = (
  client: Db,
  { text, values }: Matching,
  after: number,
): Promise<{ seq: string; entry: string; hash: Buffer }[]> =>
  many(
    client,
    `select seq, entry, hash from ledger where ${text} and seq > $${values.length + 1} order by seq limit 1000`,
    [...values, after],
  );
