/** What people set for themselves. */
import { ignoreNothing, ignoreSchema, type Ignore, type Preferences } from '../../contract/preferences.ts';
import type { Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { preferenceRows, putPreference } from './rows.ts';

export async function preferencesOf(by: Person): Promise<Preferences> {
  const rows = await preferenceRows(db(), by.id);
  const said = ignoreSchema.safeParse(rows.find((r) => r.name === 'ignore')?.value);
  return { ignore: said.success ? said.data : ignoreNothing };
}

export async function setIgnore(by: Person, ignore: Ignore): Promise<Preferences> {
  await putPreference(db(), by.id, JSON.stringify(ignore));
  return preferencesOf(by);
}
