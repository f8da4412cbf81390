/** For tests: an empty database of one's own, made from the migrated template that `npm test` prepares. */
import { randomBytes } from 'node:crypto';
import pg from 'pg';
import type { Person, Role } from '../../contract/api.ts';
import { closeWorkers } from '../compute/pool.ts';
import { closePools, db, one } from '../db/pool.ts';
import { closeQueue } from '../jobs/queue.ts';
import type { Incoming } from '../versions/checkin.ts';

const TEMPLATE = 'ovrel_template';

/** Call at the top of a test file. */
export function withTestDatabase(): void {
  const admin = process.env['OVREL_TEST_DATABASE'];
  if (!admin) throw new Error('OVREL_TEST_DATABASE is not set: run these tests with npm test.');
  const name = `test_${randomBytes(6).toString('hex')}`;
  const run = async (text: string): Promise<void> => {
    const client = new pg.Client({ connectionString: admin });
    await client.connect();
    await client.query(text).finally(() => client.end());
  };
  beforeAll(async () => {
    await run(`create database ${name} template ${TEMPLATE}`);
    const url = new URL(admin);
    url.pathname = `/${name}`;
    process.env['DATABASE_URL'] = url.href;
  });
  afterAll(async () => {
    await closeQueue();
    await Promise.all([closePools(), closeWorkers()]);
    await run(`drop database ${name} with (force)`);
  });
}

export async function makeTestPerson(role: Role, name: string = role): Promise<Person> {
  const person = await one<Person>(
    db(),
    `insert into person (name, email, role, password_hash) values ($1, $2, $3, 'none') returning id, name, email, role`,
    [name, `${name}-${randomBytes(4).toString('hex')}@test.example`, role],
  );
  return person as Person;
}

export function incoming(name: string, ...pieces: (string | Uint8Array)[]): Incoming {
  return {
    name,
    bytes: (async function* () {
      for (const piece of pieces) yield typeof piece === 'string' ? new TextEncoder().encode(piece) : piece;
    })(),
  };
}

export const countRows = async (table: string): Promise<number> =>
  Number((await db().query<{ n: string }>(`select count(*) as n from ${table}`)).rows[0]?.n);
