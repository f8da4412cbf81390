import { join } from 'node:path';
import { runner } from 'node-pg-migrate';
import pg from 'pg';
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

/** Brings the tables up to date, and those of the queue. */
export async function migrate(databaseUrl: string): Promise<void> {
  await runner({ databaseUrl, dir: join(root, 'db', 'migrations'), direction: 'up', migrationsTable: 'migration', log: () => undefined, noLock: false });
  await installQueue(databaseUrl);
}
