/** Bits that a disk turns over: no wrong byte is given out, and the versions that are spoiled are named. */
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import pg from 'pg';
import type { Person } from '../../contract/api.ts';
import { db } from '../db/pool.ts';
import { runWaitingJobs } from '../jobs/run.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { readContent } from './reader.ts';
import { scrub } from './scrub.ts';

let owner: pg.Client;
// Before the database goes.
afterAll(() => owner.end());
withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

/** More of them: `npm run guard flips`. */
const FLIPS = Number(process.env['OVREL_FLIPS'] ?? 24);

/** Numbers that look random and come in the same order each time. */
function randomFrom(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

const plan = (steps: number, version: number): string =>
  Array.from(
    { length: steps },
    (_, i) => `step ${i} of the gangway: ${(i * 7919 + (i % 97 === version ? version : 0)) % 1000} mm`,
  ).join('\n');

let lead: Person;

beforeAll(async () => {
  owner = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await owner.connect();
  lead = await makeTestPerson('lead', 'Tobias');
  const projectId = (await makeProject(lead, 'Landing')).id;
  for (const name of ['plan.txt', 'deck.txt', 'notes.txt']) {
    const text = (version: number): string => `${name}\n${plan(4000, version)}`;
    const { file } = await makeFile(lead, projectId, null, name, incoming(name, text(0)), { note: '' });
    for (let version = 1; version < 6; version++)
      await checkIn(lead, file.id, incoming(name, text(version)), { note: '' });
  }
  // Packed, so that versions are kept as differences from others.
  await runWaitingJobs(['pack']);
});

interface Kept {
  readonly version: string;
  readonly content: string;
  readonly sha256: string;
}

const keptVersions = async (): Promise<Kept[]> =>
  (
    await db().query<Kept>(
      `select v.id as version, v.content_id as content, encode(c.hash, 'hex') as sha256
       from version v join content c on c.id = v.content_id order by v.made_at, v.number`,
    )
  ).rows;

/** The content's hash as it is given out; undefined where it is refused as damaged. Anything else is thrown. */
async function given(content: string): Promise<string | undefined> {
  const hash = createHash('sha256');
  try {
    for await (const piece of readContent(content, 0, Infinity, db())) hash.update(piece);
    return hash.digest('hex');
  } catch (error) {
    if ((error as { code?: string }).code === 'damaged') return undefined;
    throw error;
  }
}

/** Where bits may turn over: a table, the column, and what tells a row. */
const places = [
  { table: 'chunk', column: 'data', key: 'id' },
  { table: 'content', column: 'manifest', key: 'id' },
] as const;

test(`of ${FLIPS} bits that are turned over, none leads to a wrong byte, and each is found`, async () => {
  const random = randomFrom(41);
  const kept = await keptVersions();
  expect(kept).toHaveLength(18);
  const wrong: string[] = [];
  let refused = 0;
  for (let flip = 0; flip < FLIPS; flip++) {
    const { table, column, key } = places[flip % 4 === 3 ? 1 : 0];
    const { rows } = await owner.query<{ id: string; bytes: Buffer }>(
      `select ${key} as id, ${column} as bytes from ${table} where length(${column}) > 0 order by ${key}`,
    );
    const row = rows[random(rows.length)]!;
    const spoiled = Buffer.from(row.bytes);
    const at = random(spoiled.length);
    const bit = 1 << random(8);
    spoiled[at] = (spoiled[at] ?? 0) ^ bit;
    const set = (bytes: Buffer): Promise<unknown> =>
      owner.query(`update ${table} set ${column} = $2 where ${key} = $1`, [row.id, bytes]);
    await set(spoiled);
    const lost: string[] = [];
    for (const { version, content, sha256 } of kept) {
      const got = await given(content).catch((error: unknown) => `failed: ${String(error)}`);
      if (got === undefined) lost.push(version);
      else if (got !== sha256) wrong.push(`${table} ${row.id}, byte ${at}: ${got.slice(0, 80)}`);
    }
    if (lost.length > 0) refused += 1;
    if (flip % 8 === 0) {
      const report = await scrub();
      const named = report.damaged.reduce((n, { versions }) => n + versions.length, 0);
      if (named !== lost.length) wrong.push(`${table} ${row.id}: ${lost.length} versions lost, ${named} named`);
      if (report.damagedChunks + report.damagedContents === 0) wrong.push(`${table} ${row.id}: not found by the scrub`);
    }
    await set(row.bytes);
  }
  expect(wrong).toEqual([]);
  expect(refused).toBeGreaterThan(FLIPS / 2);
  // And all of it is whole again.
  for (const { content, sha256 } of kept) expect(await given(content)).toBe(sha256);
});
