import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';

export async function factValue(
  client: Db,
  contentId: string,
  kind: string,
  engine: string,
): Promise<Buffer | undefined> {
  const row = await one<{ value: Buffer }>(
    client,
    'select value from fact where store_id = $1 and content_id = $2 and kind = $3 and engine = $4 and hash = sha256(value)',
    [STORE, contentId, kind, engine],
  );
  return row?.value;
}

/** The same of several contents; those of which nothing is kept are left out. */
export const factValues = (
  client: Db,
  contentIds: readonly string[],
  kind: string,
  engine: string,
): Promise<{ content_id: string; value: Buffer }[]> =>
  many(
    client,
    'select content_id, value from fact where store_id = $1 and content_id = any($2) and kind = $3 and engine = $4 and hash = sha256(value)',
    [STORE, contentIds, kind, engine],
  );

export async function insertFact(
  client: Db,
  contentId: string,
  kind: string,
  engine: string,
  value: Buffer,
): Promise<void> {
  await client.query(
    `insert into fact (store_id, content_id, kind, engine, value, hash) values ($1, $2, $3, $4, $5, sha256($5))
     on conflict (store_id, content_id, kind, engine) do update set value = excluded.value, hash = excluded.hash
     where fact.hash <> sha256(fact.value)`,
    [STORE, contentId, kind, engine, value],
  );
}

export async function deleteFact(client: Db, contentId: string, kind: string, engine: string): Promise<void> {
  await client.query('delete from fact where store_id = $1 and content_id = $2 and kind = $3 and engine = $4', [
    STORE,
    contentId,
    kind,
    engine,
  ]);
}

const HASH_OF_COMPARISON = `sha256(convert_to(summary, 'UTF8') || value)`;

/** Kept results that are not what was kept are thrown away: they are computed anew. Gives how many. */
export async function dropDamaged(client: Db): Promise<number> {
  const facts = await client.query('delete from fact where store_id = $1 and hash <> sha256(value)', [STORE]);
  const comparisons = await client.query(
    `delete from comparison where store_id = $1 and hash <> ${HASH_OF_COMPARISON}`,
    [STORE],
  );
  return (facts.rowCount ?? 0) + (comparisons.rowCount ?? 0);
}

/** What a pair of contents is compared with: which contents, and what else the result depends on. */
export interface Pair {
  readonly a: string;
  readonly b: string;
  readonly options: string;
}

export async function comparisonValue(client: Db, pair: Pair, engine: string): Promise<Buffer | undefined> {
  const row = await one<{ value: Buffer }>(
    client,
    `select value from comparison where store_id = $1 and content_a = $2 and content_b = $3 and options = $4 and engine = $5 and hash = ${HASH_OF_COMPARISON}`,
    [STORE, pair.a, pair.b, pair.options, engine],
  );
  return row?.value;
}

export async function insertComparison(
  client: Db,
  pair: Pair,
  engine: string,
  summary: string,
  value: Buffer,
): Promise<void> {
  await client.query(
    `insert into comparison (store_id, content_a, content_b, options, engine, summary, value, hash)
     values ($1, $2, $3, $4, $5, $6, $7, sha256(convert_to($6, 'UTF8') || $7))
     on conflict (store_id, content_a, content_b, options, engine) do update set
       summary = excluded.summary, value = excluded.value, hash = excluded.hash
     where comparison.hash <> sha256(convert_to(comparison.summary, 'UTF8') || comparison.value)`,
    [STORE, pair.a, pair.b, pair.options, engine, summary, value],
  );
}

export async function deleteComparison(client: Db, pair: Pair, engine: string): Promise<void> {
  await client.query(
    'delete from comparison where store_id = $1 and content_a = $2 and content_b = $3 and options = $4 and engine = $5',
    [STORE, pair.a, pair.b, pair.options, engine],
  );
}

export interface DelayRow {
  readonly problem: string;
  readonly tries: number;
  readonly not_before: Date;
}

export const delayRow = (client: Db, subject: string, fact: string, detail: string): Promise<DelayRow | undefined> =>
  one<DelayRow>(
    client,
    'select problem, tries, not_before from fact_delay where store_id = $1 and subject = $2 and fact = $3 and detail = $4',
    [STORE, subject, fact, detail],
  );

export async function delayFact(
  client: Db,
  subject: string,
  fact: string,
  detail: string,
  problem: string,
  firstMinutes: number,
  mostMinutes: number,
): Promise<void> {
  await client.query(
    `insert into fact_delay (store_id, subject, fact, detail, problem, tries, not_before)
     values ($1, $2, $3, $4, $5, 1, now() + make_interval(mins => $6))
     on conflict (store_id, subject, fact, detail) do update set
       problem = excluded.problem,
       tries = fact_delay.tries + 1,
       not_before = now() + make_interval(mins => least($7, $6 * (2 ^ least(fact_delay.tries, 20))::int))`,
    [STORE, subject, fact, detail, problem, firstMinutes, mostMinutes],
  );
}

export async function deleteDelay(client: Db, subject: string, fact: string, detail: string): Promise<void> {
  await client.query('delete from fact_delay where store_id = $1 and subject = $2 and fact = $3 and detail = $4', [
    STORE,
    subject,
    fact,
    detail,
  ]);
}
