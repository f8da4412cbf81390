/** What is done to versions by hand, past Ovrel, is found: by the scrub and by the ledger's proof. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { SMTPServer } from 'smtp-server';
import type { FileEntry, Person } from '../../contract/api.ts';
import { db, withClient } from '../db/pool.ts';
import { jobKind } from '../jobs/registry.ts';
import { makeProject } from '../projects/service.ts';
import { bringBack, deleteFile } from '../sets/deleting.ts';
import { scrub } from '../store/scrub.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, checkInSet, makeFile, type Incoming } from '../versions/checkin.ts';
import { bringForward } from '../versions/service.ts';
import { anchorEverywhere, anchorInFile, anchorNow, anchorsIn, unborne } from './anchor.ts';
import { proveLedger } from './ledger.ts';
import { proveVersions, type WrongVersion } from './seals.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let lead: Person;
let projectId: string;
let count = 0;

beforeAll(async () => {
  lead = await makeTestPerson('lead', 'Tobias');
  projectId = (await makeProject(lead, 'Landing')).id;
});

/** A file with three versions. */
async function add(): Promise<FileEntry> {
  count += 1;
  const { file } = await makeFile(lead, projectId, null, `plan-${count}.txt`, incoming('plan.txt', 'one'), {
    note: '',
  });
  for (const text of ['two', 'three'])
    await checkIn(lead, file.id, incoming('plan.txt', text), { note: `now ${text}` });
  return file;
}

const wrongOf = async (file: FileEntry): Promise<Pick<WrongVersion, 'number' | 'fault' | 'changed'>[]> =>
  (await withClient(proveVersions)).wrong
    .filter(({ fileId }) => fileId === file.id)
    .map(({ number, fault, changed }) => ({ number, fault, changed }));

/** The owner of the database, who may do what Ovrel's own user may not. */
async function asOwner(statements: readonly string[], values: readonly unknown[] = []): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
  try {
    for (const statement of statements) await client.query(statement, statement.includes('$1') ? [...values] : []);
  } finally {
    await client.end();
  }
}

/** Does something past Ovrel, and undoes it when `look` has looked. */
async function byHand(edits: readonly string[], values: readonly unknown[], look: () => Promise<void>): Promise<void> {
  await asOwner([
    'create table kept_version as table version',
    'create table kept_version_parent as table version_parent',
  ]);
  try {
    await asOwner(edits, values);
    await look();
  } finally {
    await asOwner([
      'delete from version_parent',
      'delete from version',
      'insert into version table kept_version',
      'insert into version_parent table kept_version_parent',
      'drop table kept_version, kept_version_parent',
    ]);
  }
}

test('versions of every origin are sealed', async () => {
  const file = await add();
  await bringForward(lead, file.newest.id, 'the first again');
  await checkIn(lead, file.id, incoming('plan.txt', 'aside'), { note: '', branch: true, base: file.newest.id });
  await deleteFile(lead, file.id, 'by mistake');
  await bringBack(lead, file.id, { versionId: file.newest.id });
  const other = await add();
  const files = (async function* (): AsyncGenerator<Incoming> {
    yield incoming('plan.txt', 'four');
    yield incoming('new.txt', 'new');
  })();
  await checkInSet(lead, projectId, [{ fileId: other.id }, { name: `new-${count}.txt` }], files, { note: 'Both' });
  const { right, wrong } = await withClient(proveVersions);
  expect(wrong).toEqual([]);
  const { rows } = await db().query<{ n: number }>('select count(*)::int as n from version');
  expect(right).toBe(rows[0]?.n);
  expect((await proveLedger()).broken).toBeUndefined();
});

test('a note that is edited by hand is found', async () => {
  const file = await add();
  await byHand([`update version set note = 'harmless' where file_id = $1 and number = 2`], [file.id], async () => {
    expect(await wrongOf(file)).toEqual([{ number: 2, fault: 'changed', changed: ['note'] }]);
  });
  expect(await wrongOf(file)).toEqual([]);
});

test('a version that is pointed at another content is found', async () => {
  const file = await add();
  const swap = `update version set content_id = (select content_id from version where file_id = $1 and number = 1)
    where file_id = $1 and number = 3`;
  await byHand([swap], [file.id], async () => {
    expect(await wrongOf(file)).toEqual([{ number: 3, fault: 'changed', changed: ['content'] }]);
  });
});

test('another number, maker, moment or parent is found', async () => {
  const file = await add();
  const ines = await makeTestPerson('editor', 'Ines');
  const edits = [
    `update version set made_by = '${ines.id}' where file_id = $1 and number = 1`,
    `update version set made_at = made_at - interval '1 hour' where file_id = $1 and number = 2`,
    `update version_parent set role = 'joined from'
     where version_id = (select id from version where file_id = $1 and number = 3)`,
  ];
  await byHand(edits, [file.id], async () => {
    expect((await wrongOf(file)).map(({ number, changed }) => [number, ...changed])).toEqual([
      [1, 'by'],
      [2, 'at'],
      [3, 'parents'],
    ]);
  });
});

test('the newest version taken away, and one put in, are found, and said by the scrub', async () => {
  const file = await add();
  const edits = [
    'delete from version where file_id = $1 and number = 3',
    `insert into version (store_id, file_id, line_id, number, content_id, kind, upload_name, made_by, set_id)
     select store_id, file_id, line_id, 9, content_id, kind, upload_name, made_by, set_id
     from version where file_id = $1 and number = 1`,
  ];
  await byHand(edits, [file.id], async () => {
    expect(await wrongOf(file)).toEqual([
      { number: 3, fault: 'missing', changed: [] },
      { number: 9, fault: 'not entered', changed: [] },
    ]);
    const report = await scrub();
    expect(report.ledger?.wrong.filter(({ fileId }) => fileId === file.id)).toEqual([
      { fileId: file.id, file: file.name, project: 'Landing', version: 3, why: 'is not there any more' },
      { fileId: file.id, file: file.name, project: 'Landing', version: 9, why: 'was never entered in the ledger' },
    ]);
    expect(jobKind('scrub').say?.(report)).toBe('versions are not what the ledger says');
  });
  const report = await scrub();
  expect(report.ledger).toMatchObject({ broken: null, wrong: [] });
  expect(jobKind('scrub').say?.(report)).toBe('all is well');
});

test('kept results that were changed are not believed, and thrown away by the scrub', async () => {
  const file = await add();
  await db().query(
    `insert into fact (store_id, content_id, kind, engine, value, hash)
     select store_id, content_id, 'made up', '1', 'forged', sha256('true') from version where file_id = $1 and number = 1`,
    [file.id],
  );
  expect((await scrub()).damagedResults).toBe(1);
  expect((await scrub()).damagedResults).toBe(0);
});

describe('anchors', () => {
  let folder: string;
  const before = { ...process.env };
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'ovrel-anchor-'));
  });
  afterEach(() => {
    rmSync(folder, { recursive: true, force: true });
    process.env = { ...before };
  });

  /** Takes the last entries away as the owner of the database can. */
  async function cutOff(entries: number): Promise<void> {
    await asOwner(
      [
        'alter table ledger disable trigger ledger_kept',
        'delete from ledger where seq > (select max(seq) from ledger) - $1',
        'alter table ledger enable trigger ledger_kept',
      ],
      [entries],
    );
  }

  test('miss what is cut off at the end, which the chain alone does not', async () => {
    const path = join(folder, 'anchors');
    await anchorInFile(path, await anchorNow());
    await add();
    await anchorInFile(path, await anchorNow());
    const [first, second] = await anchorsIn(path);
    expect(await unborne(db(), await anchorsIn(path))).toEqual([]);
    await cutOff(2);
    expect((await proveLedger()).broken).toBeUndefined();
    expect(await unborne(db(), [first!, second!])).toEqual([second]);
    // Two others in their place have other seals.
    await add();
    expect(await unborne(db(), [first!, second!])).toEqual([second]);
  });

  test('are read from among other text, such as that of a mail', async () => {
    const path = join(folder, 'mail');
    const anchor = await anchorNow();
    writeFileSync(path, `Dear administrator,\n{ this is none }\n{"at":"never"}\n${JSON.stringify(anchor)}\n`);
    expect(await anchorsIn(path)).toEqual([anchor]);
  });

  test('are put wherever one is wanted; a place that fails is said, and the others have theirs', async () => {
    const got: string[] = [];
    const hook = createServer((request, response) => {
      request.on('data', (piece: Buffer) => got.push(piece.toString()));
      request.on('end', () => response.writeHead(204).end());
    });
    const mails: string[] = [];
    const post = new SMTPServer({
      authOptional: true,
      disabledCommands: ['STARTTLS'],
      onData: (stream, _, done) => {
        stream.on('data', (piece: Buffer) => mails.push(piece.toString()));
        stream.on('end', done);
      },
    });
    await new Promise<void>((ready) => {
      hook.listen(0, '127.0.0.1', ready);
    });
    const mailPort = await new Promise<number>((ready) => {
      const listening = post.listen(0, '127.0.0.1', () => ready((listening.address() as AddressInfo).port));
    });
    process.env['OVREL_ANCHOR_FILE'] = join(folder, 'anchors');
    process.env['OVREL_ANCHOR_WEBHOOK'] = `http://127.0.0.1:${(hook.address() as AddressInfo).port}/`;
    process.env['OVREL_ANCHOR_MAIL'] = 'keeper@quillmere.example';
    process.env['OVREL_MAIL_SERVER'] = `smtp://127.0.0.1:${mailPort}`;
    const { anchor, places } = await anchorEverywhere();
    expect(places).toEqual(['file', 'webhook', 'mail']);
    expect(JSON.parse(got.join(''))).toEqual(anchor);
    expect(mails.join('')).toContain(anchor.seal);
    hook.close();
    await new Promise<void>((ended) => {
      post.close(ended);
    });
    await expect(anchorEverywhere()).rejects.toThrow(/webhook: .*mail: /s);
    expect(readFileSync(join(folder, 'anchors'), 'utf8').trim().split('\n')).toHaveLength(2);
  });

  test('are not wanted anywhere by default', async () => {
    const report = await anchorEverywhere();
    expect(jobKind('anchor').say?.(report)).toBe('no place is set for anchors');
  });
});
