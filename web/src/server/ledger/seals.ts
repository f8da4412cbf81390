/**
 * Seals of versions. An entry of the ledger that made versions says what they are: content, note, place, parents. So the
 * chain of the ledger covers them: a version that was changed, taken away or put in by hand does not match its seal.
 */
import { isDeepStrictEqual } from 'node:util';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import { entriesAfter } from './rows.ts';

/** What a version is, and stays. Parents as id and role, in their order; `content` is a SHA-256. */
export interface Seal {
  readonly id: string;
  readonly file: string;
  readonly line: string;
  readonly number: number;
  readonly content: string;
  readonly note: string;
  readonly by: string;
  /** To the microsecond, UTC. */
  readonly at: string;
  readonly parents: readonly (readonly [string, string])[];
}

/** Versions as they stand in the tables now; those that are not there are left out. */
export async function sealsOf(client: Db, versionIds: readonly string[]): Promise<ReadonlyMap<string, Seal>> {
  if (versionIds.length === 0) return new Map();
  const rows = await many<{ seal: Seal }>(
    client,
    `
    select jsonb_build_object(
      'id', v.id, 'file', v.file_id, 'line', v.line_id, 'number', v.number, 'content', encode(c.hash, 'hex'),
      'note', v.note, 'by', v.made_by,
      'at', to_char(v.made_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
      'parents', coalesce((
        select jsonb_agg(jsonb_build_array(coalesce(p.was_id, p.parent_id), p.role) order by p.place)
        from version_parent p where p.store_id = v.store_id and p.version_id = v.id), '[]'::jsonb)
    ) as seal
    from version v join content c on c.store_id = v.store_id and c.id = v.content_id
    where v.store_id = $1 and v.id = any($2)`,
    [STORE, versionIds],
  );
  return new Map(rows.map(({ seal }) => [seal.id, seal]));
}

export interface WrongVersion {
  readonly versionId: string;
  readonly fileId: string;
  readonly number: number;
  readonly fault: 'missing' | 'changed' | 'not entered';
  /** What of it was changed, by the names of a seal. */
  readonly changed: readonly string[];
}

export interface Sealed {
  /** Versions that are what the ledger says. */
  readonly right: number;
  readonly wrong: readonly WrongVersion[];
}

type Tell = (done: number, total: number) => Promise<void>;

/**
 * Compares every version with its seal, on one connection in a state that stands still. The chain itself is proved by
 * `proveLedger`.
 */
export async function proveVersions(client: Db, tell: Tell = async () => undefined): Promise<Sealed> {
  await client.query('begin isolation level repeatable read read only');
  try {
    return await proveStanding(client, tell);
  } finally {
    await client.query('rollback');
  }
}

async function proveStanding(client: Db, tell: Tell): Promise<Sealed> {
  const total = await countVersions(client);
  const right = new Set<string>();
  const wrong = new Map<string, WrongVersion>();
  const erased = new Set<string>();
  for await (const { seals, gone } of everySeal(client)) {
    for (const { id } of gone) erased.add(id);
    const now = await sealsOf(
      client,
      seals.map(({ id }) => id),
    );
    for (const seal of seals) {
      const standing = now.get(seal.id);
      const changed = standing ? differencesOf(seal, standing) : [];
      if (standing && changed.length === 0) right.add(seal.id);
      else {
        const fault = standing ? 'changed' : 'missing';
        wrong.set(seal.id, { versionId: seal.id, fileId: seal.file, number: seal.number, fault, changed });
      }
    }
    await tell(right.size + wrong.size, total);
  }
  // What was erased by the rules is entered as erased, and is to be missed.
  for (const id of erased) if (wrong.get(id)?.fault === 'missing') wrong.delete(id);
  for (const version of await unsealed(client, total, right, wrong)) wrong.set(version.versionId, version);
  return { right: right.size, wrong: [...wrong.values()] };
}

const differencesOf = (sealed: Seal, now: Seal): string[] =>
  (Object.keys(sealed) as (keyof Seal)[]).filter((name) => !isDeepStrictEqual(sealed[name], now[name]));

const faults: Readonly<Record<WrongVersion['fault'], string>> = {
  missing: 'is not there any more',
  changed: 'was changed',
  'not entered': 'was never entered in the ledger',
};

/** In words that follow a version: “was changed: note”. */
export const sayFault = ({ fault, changed }: Pick<WrongVersion, 'fault' | 'changed'>): string =>
  changed.length > 0 ? `${faults[fault]}: ${changed.join(', ')}` : faults[fault];

interface SealPage {
  readonly seals: readonly Seal[];
  /** Versions that were erased. */
  readonly gone: readonly Seal[];
}

/** Seals in the order in which they were made, page by page. */
async function* everySeal(client: Db): AsyncGenerator<SealPage> {
  for (let seq = 0; ;) {
    const rows = await entriesAfter(client, seq);
    const last = rows.at(-1);
    if (!last) return;
    seq = Number(last.seq);
    const entries = rows.map(
      ({ entry }) => JSON.parse(entry) as { versions?: readonly Seal[]; erased?: readonly Seal[] },
    );
    const seals = entries.flatMap(({ versions = [] }) => versions);
    for (let at = 0; at < seals.length; at += 1000) yield { seals: seals.slice(at, at + 1000), gone: [] };
    yield { seals: [], gone: entries.flatMap(({ erased = [] }) => erased) };
  }
}

async function countVersions(client: Db): Promise<number> {
  const row = await one<{ n: number }>(client, 'select count(*)::int as n from version where store_id = $1', [STORE]);
  return row?.n ?? 0;
}

/** Versions that no entry of the ledger speaks of. */
async function unsealed(
  client: Db,
  total: number,
  right: ReadonlySet<string>,
  wrong: ReadonlyMap<string, WrongVersion>,
): Promise<WrongVersion[]> {
  const there = [...wrong.values()].filter(({ fault }) => fault === 'changed').length;
  if (total === right.size + there) return [];
  const found: WrongVersion[] = [];
  for (let last = '00000000-0000-0000-0000-000000000000'; ;) {
    const rows = await many<{ id: string; file_id: string; number: number }>(
      client,
      'select id, file_id, number from version where store_id = $1 and id > $2 order by id limit 10000',
      [STORE, last],
    );
    for (const { id, file_id, number } of rows)
      if (!right.has(id) && !wrong.has(id))
        found.push({ versionId: id, fileId: file_id, number, fault: 'not entered', changed: [] });
    if (rows.length < 10_000) return found;
    last = rows.at(-1)?.id ?? last;
  }
}
