/** What people set for themselves. */
import { ignoreNothing, ignoreSchema, type Ignore, type Preferences } from '../../contract/preferences.ts';
import type { Person } from '../../contract/api.ts';
import { db, many } from '../db/pool.ts';

export async function preferencesOf(by: Person): Promise<Preferences> {
  const rows = await many<{ name: string; value: unknown }>(
    db(),
    'select name, value from preference where person_id = $1',
    [by.id],
  );
  const said = ignoreSchema.safeParse(rows.find((r) => r.name === 'ignore')?.value);
  return { ignore: said.success ? said.data : ignoreNothing };
}

export async function setIgnore(by: Person, ignore: Ignore): Promise<Preferences> {
  await db().query(
    `
    insert into preference (person_id, name, value) values ($1, 'ignore', $2)
    on conflict (person_id, name) do update set value = excluded.value, set_at = now()`,
    [by.id, JSON.stringify(ignore)],
  );
  return preferencesOf(by);
}
