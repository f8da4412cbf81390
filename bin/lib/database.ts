import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { runner } from 'node-pg-migrate';
import pg from 'pg';
import { APP_USER } from '../../web/src/server/config.ts';
import { installQueue } from '../../web/src/server/jobs/queue.ts';
import { root } from './prepare.mjs';

/** Makes the database if it is missing; true where it was made. */
export async function ensureDatabase(adminUrl: string, name: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: adminUrl });
  await client.connect();
  try {
    const there = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (there.rowCount) return false;
    await client.query(`create database ${client.escapeIdentifier(name)}`);
    return true;
  } finally {
    await client.end();
  }
}

/**
 * Brings the tables up to date, and those of the queue; from then on this process and its children work with fewer
 * rights.
 */
export async function migrate(databaseUrl: string): Promise<void> {
  await runner({
    databaseUrl,
    dir: join(root, 'db', 'migrations'),
    direction: 'up',
    migrationsTable: 'migration',
    log: () => undefined,
    noLock: false,
  });
  await installQueue(databaseUrl);
  process.env['OVREL_APP_PASSWORD'] = (await makeAppUser(databaseUrl)) ?? '';
}

/**
 * The user that the application signs in as: it may do everything with rows, except change or remove what the ledger
 * says.
 * Gives its password, or undefined where users cannot be made.
 */
async function makeAppUser(databaseUrl: string): Promise<string | undefined> {
  // Every process that knows the database's own password knows this one.
  const password = createHash('sha256')
    .update(`${new URL(databaseUrl).password} ${APP_USER}`)
    .digest('hex');
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query(`
      do $$ begin
        if not exists (select from pg_roles where rolname = '${APP_USER}') then create role ${APP_USER} login password '${password}'; end if;
      exception when duplicate_object or unique_violation then null;
      end $$`);
    for (const schema of ['public', 'pgboss']) {
      await client.query(`grant usage on schema ${schema} to ${APP_USER}`);
      await client.query(`grant select, insert, update, delete on all tables in schema ${schema} to ${APP_USER}`);
      await client.query(`grant usage, select, update on all sequences in schema ${schema} to ${APP_USER}`);
      // Tables that later migrations make are for the application, too, whoever runs them.
      await client.query(
        `alter default privileges in schema ${schema} grant select, insert, update, delete on tables to ${APP_USER}`,
      );
    }
    await client.query(`revoke update, delete, truncate on ledger from ${APP_USER}`);
    return password;
  } catch (error) {
    if ((error as { code?: string }).code !== '42501') throw error;
    console.warn('This database user may not make users, so the ledger is kept by its triggers alone (docs/desk.md).');
    return undefined;
  } finally {
    await client.end();
  }
}
