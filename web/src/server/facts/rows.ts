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
    'select value from fact where store_id = $1 and content_id = $2 and kind = $3 and engine = $4',
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
    'select content_id, value from fact where store_id = $1 and content_id = any($2) and kind = $3 and engine = $4',
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
    'insert into fact (store_id, content_id, kind, engine, value) values ($1, $2, $3, $4, $5) on conflict do nothing',
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

/** What a pair of contents is compared with: which contents, and what else the result depends on. */
export interface Pair {
  readonly a: string;
  readonly b: string;
  readonly options: string;
}

export async function comparisonValue(client: Db, pair: Pair, engine: string): Promise<Buffer | undefined> {
  const row = await one<{ value: Buffer }>(
    client,
    'select value from comparison where store_id = $1 and content_a = $2 and content_b = $3 and options = $4 and engine = $5',
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
    `insert into comparison (store_id, content_a, content_b, options, engine, summary, value)
     values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing`,
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
