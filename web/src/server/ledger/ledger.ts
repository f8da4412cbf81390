/**
 * The ledger: who did what, when, from where and why. Entries are only ever added, each sealed by a hash over the one
 * before.
 */
import { createHash } from 'node:crypto';
import type { Ledger, LedgerEntry } from '../../contract/desk.ts';
import type { Person } from '../../contract/api.ts';
import { db, type Client, type Db } from '../db/pool.ts';
import { permit, permitFile, scopeOf } from '../people/access.ts';
import { require } from '../people/permissions.ts';
import { Problem } from '../problem.ts';
import { holdsSession, holdsToken } from '../people/rows.ts';
import { sealsOf, type Seal } from './seals.ts';
import { originNow, sessionNow, tokenNow } from './origin.ts';
import {
  lockLedger,
  lastEntry,
  actsKnown,
  peopleKnown,
  entriesAfter,
  conditions,
  entriesOnward,
  insertEntries,
  latestEntries,
  type Matching,
  type Query,
} from './rows.ts';

const PAGE = 200;

export type Act =
  | 'signed in'
  | 'added a person'
  | 'renamed a person'
  | 'changed a role'
  | 'deactivated a person'
  | 'activated a person'
  | 'deleted a person'
  | 'gave a password'
  | 'changed their password'
  | 'ended sessions'
  | 'set up a second factor'
  | 'ended a second factor'
  | 'made a token'
  | 'revoked a token'
  | 'made a project'
  | 'renamed a project'
  | 'made a folder'
  | 'changed a folder'
  | 'changed a file'
  | 'changed rules'
  | 'watched a folder'
  | 'sealed'
  | 'checked in'
  | 'saved'
  | 'took in'
  | 'left without keeping'
  | 'brought forward'
  | 'branched off'
  | 'changed a line'
  | 'took back'
  | 'carried over'
  | 'joined'
  | 'erased'
  | 'swept'
  | 'titled a version'
  | 'set aside'
  | 'deleted'
  | 'brought back'
  | 'checked out'
  | 'gave up'
  | 'asked for'
  | 'took over'
  | 'changed access'
  | 'commented'
  | 'resolved a comment'
  | 'opened a comment again';

export interface NewEntry {
  readonly act: Act;
  readonly by: Pick<Person, 'id' | 'name'> | null;
  /** What it was done to, in words. */
  readonly subject: string;
  readonly reason?: string;
  readonly projectId?: string | null;
  readonly fileId?: string | null;
  /** Only the demo's loader says when. */
  readonly at?: Date | undefined;
  /** Versions that it made: what they are is sealed with it. */
  readonly versions?: readonly string[];
  /** Versions that are about to be removed for good: what they were is kept with it. */
  readonly erased?: readonly string[];
}

/** The first entry is sealed against this. */
const NOTHING = Buffer.alloc(32);

export const sealed = (before: Buffer, entry: string): Buffer =>
  createHash('sha256').update(before).update(entry).digest();

/**
 * Adds entries, in the transaction of what they tell. Call it last: until that transaction ends, nobody else can add
 * one.
 */
export async function record(
  client: Client,
  entries: readonly NewEntry[],
  { evenIfEnded = false }: { readonly evenIfEnded?: boolean } = {},
): Promise<void> {
  if (!entries.length) return;
  if (!evenIfEnded) await refuseEnded(client);
  await lockLedger(client);
  const last = await lastEntry(client);
  let seq = Number(last?.seq ?? 0);
  let hash: Buffer = last?.hash ?? NOTHING;
  const seals = await sealsOf(
    client,
    entries.flatMap(({ versions = [], erased = [] }) => [...versions, ...erased]),
  );
  const rows = entries.map((said) => {
    const {
      act,
      by,
      subject,
      reason = '',
      projectId = null,
      fileId = null,
      at = new Date(),
      versions = [],
      erased = [],
    } = said;
    seq += 1;
    const entry = JSON.stringify({
      seq,
      at: at.toISOString(),
      by: by && { id: by.id, name: by.name },
      act,
      subject,
      reason,
      from: originNow(),
      projectId,
      fileId,
      ...(versions.length > 0 && { versions: versions.map((id) => sealIn(seals, id)) }),
      ...(erased.length > 0 && { erased: erased.map((id) => sealIn(seals, id)) }),
    });
    hash = sealed(hash, entry);
    return { seq, at, person: by?.id ?? null, act, projectId, fileId, entry, hash };
  });
  await insertEntries(client, rows);
}

function sealIn(seals: ReadonlyMap<string, Seal>, id: string): Seal {
  const seal = seals.get(id);
  if (!seal) throw new Error(`version ${id} was to be entered in the ledger, and is not there`);
  return seal;
}

/**
 * Whoever was put out while their request ran does nothing more: what is to be recorded is undone with its
 * transaction.
 */
async function refuseEnded(client: Client): Promise<void> {
  const session = sessionNow();
  const tokenId = tokenNow();
  if (tokenId !== undefined && !(await holdsToken(client, tokenId)))
    throw new Problem(
      401,
      'revoked-token',
      'This access token was revoked meanwhile. Nothing was changed; make a new one on the page “Desk”.',
    );
  if (session !== undefined && !(await holdsSession(client, session)))
    throw new Problem(401, 'sign-in-first', 'Your session has ended meanwhile. Nothing was changed; sign in again.');
}

type Told = Omit<LedgerEntry, 'hash'>;

/**
 * Entries of files whose history the person may not see are left out, as are those of projects of which they see
 * nothing.
 */
async function matching(by: Person, query: Query): Promise<Matching> {
  if (query.file) await permitFile(by, 'see old versions', query.file, 'see what was done');
  if (!query.file && !query.project) require(by, 'read');
  const scope = await scopeOf(by, 'see old versions', query.project);
  if (query.project && !scope.any(query.project))
    await permit(by, 'see old versions', { projectId: query.project, folderId: null }, 'see what was done');
  return conditions(query, scope);
}

const entryOf = (r: { entry: string; hash: Buffer }): LedgerEntry => ({
  ...(JSON.parse(r.entry) as Told),
  hash: r.hash.toString('hex'),
});

/** A page of entries, newest first, and what can be filtered by. */
export async function readLedger(by: Person, query: Query): Promise<Ledger> {
  const wanted = await matching(by, query);
  const [rows, acts, people] = await Promise.all([
    latestEntries(db(), wanted, PAGE + 1),
    actsKnown(db()),
    peopleKnown(db()),
  ]);
  return { entries: rows.slice(0, PAGE).map(entryOf), more: rows.length > PAGE, acts: acts.map((a) => a.act), people };
}

/** All entries that match, oldest first, in pieces. */
export async function* everyEntry(by: Person, query: Query): AsyncGenerator<LedgerEntry[]> {
  const wanted = await matching(by, { ...query, before: undefined });
  for (let after = 0; ;) {
    const rows = await entriesOnward(db(), wanted, after);
    if (!rows.length) return;
    yield rows.map(entryOf);
    after = Number(rows.at(-1)?.seq);
  }
}

export interface Proof {
  readonly entries: number;
  /** The seal of the last entry; whoever noted it earlier can tell whether anything before it was changed since. */
  readonly seal: string;
  /** The first entry that does not hold, and why; undefined for a sound chain. */
  readonly broken: { readonly seq: number; readonly why: string } | undefined;
}

/** Goes through the whole chain: numbers without gaps, every hash, and that the columns say what the entry says. */
export async function proveLedger(client: Db = db()): Promise<Proof> {
  let hash: Buffer = NOTHING;
  let seq = 0;
  for (;;) {
    const rows = await entriesAfter(client, seq);
    for (const row of rows) {
      const broken = (why: string): Proof => ({
        entries: seq,
        seal: hash.toString('hex'),
        broken: { seq: Number(row.seq), why },
      });
      if (Number(row.seq) !== seq + 1) return broken(`entry ${seq + 1} is missing`);
      if (!sealed(hash, row.entry).equals(row.hash)) return broken('it was changed, or one before it was');
      const told = JSON.parse(row.entry) as Told;
      if (
        told.seq !== Number(row.seq) ||
        told.act !== row.act ||
        (told.by?.id ?? null) !== row.person_id ||
        told.projectId !== row.project_id ||
        told.fileId !== row.file_id ||
        told.at !== row.at.toISOString()
      )
        return broken('its columns do not say what it says');
      seq++;
      hash = row.hash;
    }
    if (rows.length < 1000) return { entries: seq, seal: hash.toString('hex'), broken: undefined };
  }
}
