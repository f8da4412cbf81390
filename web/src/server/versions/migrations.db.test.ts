/** Migrations over a database in which people have worked: down to what was before, and up again. */
import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { projectRoles } from '../../contract/access.ts';
import { db, many, withClient } from '../db/pool.ts';
import { listAccess, setAccess } from '../people/granting.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from './checkin.ts';
import { proveLedger } from '../ledger/ledger.ts';
import { proveVersions } from '../ledger/seals.ts';
import { bringForward, listVersions, railOf } from './service.ts';

withTestDatabase();
const root = join(__dirname, '../../../..');
process.env['OVREL_ROOT'] = root;

/** Migrations that are tried: those that change what was there before, and all after them. */
const FIRST_TRIED = '0008';
const TRIED = readdirSync(join(root, 'db/migrations')).filter((name) => name >= FIRST_TRIED).length;

function migrate(direction: 'up' | 'down'): void {
  const { status, stderr } = spawnSync(
    process.execPath,
    [
      join(root, 'node_modules/node-pg-migrate/bin/node-pg-migrate.js'),
      direction,
      ...(direction === 'down' ? [String(TRIED)] : []),
      '--migrations-dir',
      join(root, 'db/migrations'),
      '--migrations-table',
      'migration',
    ],
    { encoding: 'utf8', env: { ...process.env, DATABASE_URL: process.env['DATABASE_URL'] } },
  );
  if (status !== 0) throw new Error(stderr);
}

test('what was made before is there afterwards: where versions come from, and who may do what', async () => {
  const lead = await makeTestPerson('lead', 'Tobias');
  const ines = await makeTestPerson('editor', 'Ines');
  const projectId = (await makeProject(lead, 'Landing')).id;
  await setAccess(lead, { projectId, folderId: null }, ines.id, projectRoles.editor);
  const { file } = await makeFile(lead, projectId, null, undefined, incoming('plan.txt', 'one'), { note: '' });
  await checkIn(lead, file.id, incoming('plan.txt', 'two'), { note: '' });
  await bringForward(lead, file.newest.id, 'back to the first');
  const rail = await railOf(lead, file.id);
  const versions = await listVersions(lead, file.id);
  const access = await listAccess(lead, { projectId, folderId: null });

  migrate('down');
  const before = await many<{ number: number; parent: number | null; source: number | null }>(
    db(),
    `select v.number, parent.number as parent, source.number as source from version v
     left join version parent on parent.id = v.parent_id left join version source on source.id = v.source_id
     order by v.number`,
  );
  expect(before).toEqual([
    { number: 1, parent: null, source: null },
    { number: 2, parent: 1, source: null },
    { number: 3, parent: 2, source: 1 },
  ]);
  // What an engine without memory said of sound documents was kept by earlier releases.
  await db().query(
    `insert into fact (store_id, content_id, kind, engine, value)
     select 1, content_id, 'look.txt', 'look/1', $1 from version where number = 2`,
    [Buffer.from('{"problem":"The document is too large to be looked into."}')],
  );
  const said = await many<{ rights: string[] }>(db(), 'select rights from access where person_id = $1', [ines.id]);
  expect(said).toEqual([{ rights: [...projectRoles.editor] }]);

  migrate('up');
  expect(await railOf(lead, file.id)).toEqual(rail);
  expect(await listVersions(lead, file.id)).toEqual(versions);
  expect(await listAccess(lead, { projectId, folderId: null })).toEqual(access);
  expect(await many(db(), "select 1 from fact where kind = 'look.txt'")).toEqual([]);
  // Versions of before are sealed by the update itself, in a chain that holds.
  expect((await proveLedger()).broken).toBeUndefined();
  expect(await many(db(), "select 1 from ledger where act = 'sealed'")).toHaveLength(1);
  expect(await withClient(proveVersions)).toEqual({ right: 3, wrong: [] });
});
