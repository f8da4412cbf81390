/** Rows of what came of check-ins, by the keys that their senders gave them. */
import { one, type Db } from '../db/pool.ts';

/** Senders ask again within minutes; a desk that was closed over a weekend still gets its answer. */
const KEPT_DAYS = 7;

export const attemptRow = (
  client: Db,
  personId: string,
  key: string,
): Promise<{ what: string; outcome: unknown } | undefined> =>
  one(client, 'select what, outcome from attempt where person_id = $1 and key = $2', [personId, key]);

/** False where somebody has it; waits for whoever is about to. */
export const claimAttempt = async (client: Db, personId: string, key: string, what: string): Promise<boolean> =>
  (
    await client.query(
      `insert into attempt (person_id, key, what, outcome) values ($1, $2, $3, 'null') on conflict do nothing`,
      [personId, key, what],
    )
  ).rowCount === 1;

export async function setOutcome(client: Db, personId: string, key: string, outcome: unknown): Promise<void> {
  await client.query('update attempt set outcome = $3 where person_id = $1 and key = $2', [
    personId,
    key,
    JSON.stringify(outcome),
  ]);
}

export async function dropOldAttempts(client: Db): Promise<void> {
  await client.query('delete from attempt where at < now() - make_interval(days => $1)', [KEPT_DAYS]);
}
