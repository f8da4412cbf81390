import pg from 'pg';
import type { LedgerEntry } from '../../contract/desk.ts';
import type { Person } from '../../contract/api.ts';
import { db, transaction } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { csvOf, jsonOf } from './pieces.ts';
import { everyEntry, proveLedger, readLedger, record, sealed, type NewEntry } from './ledger.ts';
import { withOrigin } from './origin.ts';

withTestDatabase();

let admin: Person;
let ines: Person;
const said = (subject: string, more: Partial<NewEntry> = {}): Promise<void> =>
  transaction((client) => record(client, [{ act: 'commented', by: ines, subject, ...more }]));
const all = async (query: Parameters<typeof readLedger>[1] = {}): Promise<LedgerEntry[]> =>
  (await readLedger(admin, query)).entries;

/** What only somebody with the keys of the whole database can do. */
async function behindTheBack(sql: string, values: unknown[] = []): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
  try {
    await client.query('alter table ledger disable trigger all');
    await client.query(sql, values);
    await client.query('alter table ledger enable trigger all');
  } finally {
    await client.end();
  }
}

beforeAll(async () => {
  [admin, ines] = [await makeTestPerson('administrator', 'Marit'), await makeTestPerson('editor', 'Ines')];
});

test('every entry is sealed over the one before, and the whole chain holds', async () => {
  await said('landing-plan.svg');
  await transaction((client) =>
    record(client, [
      { act: 'deleted', by: admin, subject: 'old.svg', reason: 'drawn anew' },
      { act: 'brought back', by: null, subject: 'old.svg' },
    ]),
  );
  const entries = (await all()).reverse();
  const proof = await proveLedger();
  expect(entries.map((e) => e.seq)).toEqual(entries.map((_, k) => k + 1));
  expect(proof).toEqual({ entries: entries.length, seal: entries.at(-1)?.hash, broken: undefined });
  const raw = (await db().query<{ entry: string; hash: Buffer }>('select entry, hash from ledger order by seq')).rows;
  expect(raw.reduce<Buffer>((before, { entry }) => sealed(before, entry), Buffer.alloc(32)).toString('hex')).toBe(
    proof.seal,
  );
});

test('what was noted of the chain earlier is still in it after more was added', async () => {
  const before = await proveLedger();
  await said('one more');
  const [entry] = (await db().query<{ hash: Buffer }>('select hash from ledger where seq = $1', [before.entries])).rows;
  expect(entry?.hash.toString('hex')).toBe(before.seal);
  expect((await proveLedger()).entries).toBe(before.entries + 1);
});

test('what fails leaves no entry and no gap', async () => {
  const { entries } = await proveLedger();
  await expect(
    transaction(async (client) => {
      await record(client, [{ act: 'commented', by: ines, subject: 'never' }]);
      throw new Error('the act itself failed');
    }),
  ).rejects.toThrow('the act itself failed');
  expect((await proveLedger()).entries).toBe(entries);
  await said('afterwards');
  expect((await proveLedger()).broken).toBeUndefined();
});

test('many at once wait for one another: numbers without gaps', async () => {
  const { entries } = await proveLedger();
  await Promise.all(Array.from({ length: 12 }, (_, k) => said(`at once ${k}`)));
  expect(await proveLedger()).toMatchObject({ entries: entries + 12, broken: undefined });
  expect(new Set((await all({ words: 'at once' })).map((e) => e.subject)).size).toBe(12);
});

test('where the request came from is kept, cut to a sensible length', async () => {
  await withOrigin(new Headers({ 'x-ovrel-peer': '192.0.2.7', 'user-agent': 'Drawing office '.repeat(40) }), () =>
    said('from afar'),
  );
  const [entry] = await all({ words: 'from afar' });
  expect(entry?.from).toMatch(/^192\.0\.2\.7, Drawing office /);
  expect(entry?.from.length).toBeLessThan(190);
  await said('from here');
  expect((await all({ words: 'from here' }))[0]?.from).toBe('the server itself');
});

describe('looking into it', () => {
  test('by words as they are written, signs of the database included', async () => {
    for (const subject of ['100% done', '100 percent', 'a_b.svg', 'axb.svg', 'back\\slash']) await said(subject);
    expect((await all({ words: '100%' })).map((e) => e.subject)).toEqual(['100% done']);
    expect((await all({ words: 'A_B' })).map((e) => e.subject)).toEqual(['a_b.svg']);
    expect((await all({ words: 'back\\' })).map((e) => e.subject)).toEqual(['back\\slash']);
    await said('plain', { reason: 'Because of the Thornholm tide' });
    expect((await all({ words: 'thornholm' })).map((e) => e.subject)).toEqual(['plain']);
  });
  test('by person, by act, by time, and page by page', async () => {
    await said('by Marit', { by: admin, at: new Date('2031-05-01T10:00:00Z') });
    expect((await all({ person: admin.id, since: '2031-01-01T00:00:00Z' })).map((e) => e.subject)).toEqual([
      'by Marit',
    ]);
    expect(await all({ act: 'took over' })).toEqual([]);
    expect(await all({ until: '2000-01-01T00:00:00Z' })).toEqual([]);
    await transaction((client) =>
      record(
        client,
        Array.from({ length: 230 }, (_, k) => ({ act: 'commented' as const, by: ines, subject: `page ${k}` })),
      ),
    );
    const first = await readLedger(admin, { words: 'page ' });
    const last = first.entries.at(-1)!;
    const second = await readLedger(admin, { words: 'page ', before: last.seq });
    expect([first.entries.length, first.more, second.entries.length, second.more]).toEqual([200, true, 30, false]);
    expect(second.entries[0]!.seq).toBeLessThan(last.seq);
  });
  test('of a project only its own', async () => {
    const project = await makeProject(admin, 'Quillmere ledger');
    expect((await all({ project: project.id })).map((e) => e.act)).toEqual(['made a project']);
  });
});

describe('for other programs', () => {
  async function* pieces(): AsyncGenerator<LedgerEntry[]> {
    const entry = (seq: number, subject: string): LedgerEntry => ({
      seq,
      at: '2026-11-26T09:00:00.000Z',
      by: { id: 'x', name: 'Ines "Ink" Calloway' },
      act: 'commented',
      subject,
      reason: 'two\nlines',
      from: 'here',
      projectId: null,
      fileId: null,
      hash: 'ab',
    });
    yield [entry(1, '=SUM(A1:A9)')];
    yield [entry(2, 'plan, revised')];
  }
  async function* nothing(): AsyncGenerator<LedgerEntry[]> {
    /* Nothing was done. */
  }
  const text = async (list: AsyncGenerator<Uint8Array, void>): Promise<string> => {
    let out = '';
    for await (const piece of list) out += new TextDecoder().decode(piece);
    return out;
  };

  test('CSV: quoted where needed, and no cell that a spreadsheet would compute', async () => {
    const csv = await text(csvOf(pieces()));
    expect(csv.split('\r\n')[0]).toBe('seq,at,by,act,subject,reason,from,project,file,hash');
    expect(csv).toContain(
      `1,2026-11-26T09:00:00.000Z,"Ines ""Ink"" Calloway",commented,'=SUM(A1:A9),"two\nlines",here,,,ab\r\n`,
    );
    expect(csv).toContain('"plan, revised"');
  });
  test('JSON: one array, whatever the pieces, and an empty one of nothing', async () => {
    expect((JSON.parse(await text(jsonOf(pieces()))) as LedgerEntry[]).map((e) => e.seq)).toEqual([1, 2]);
    expect(JSON.parse(await text(jsonOf(nothing())))).toEqual([]);
  });
  test('all that is there, oldest first', async () => {
    const seqs: number[] = [];
    for await (const piece of everyEntry(admin, {})) seqs.push(...piece.map((e) => e.seq));
    expect(seqs).toEqual(Array.from({ length: (await proveLedger()).entries }, (_, k) => k + 1));
  });
});

describe('tampering', () => {
  test('the application itself cannot change or remove an entry', async () => {
    await expect(db().query(`update ledger set act = 'resolved a comment' where seq = 1`)).rejects.toThrow(
      /can only be added to|permission denied/,
    );
    await expect(db().query('delete from ledger where seq = 1')).rejects.toThrow(
      /can only be added to|permission denied/,
    );
    await expect(db().query('truncate ledger')).rejects.toThrow(/can only be added to|permission denied/);
  });

  test.each<[string, string, string, RegExp]>([
    [
      'a word of an entry',
      `update ledger set entry = replace(entry, 'commented', 'commended') where seq = 1`,
      `update ledger set entry = replace(entry, 'commended', 'commented') where seq = 1`,
      /was changed, or one before it was/,
    ],
    [
      'who it says did it',
      `update ledger set person_id = null where seq = 1`,
      `update ledger set person_id = (entry::json->'by'->>'id')::uuid where seq = 1`,
      /columns do not say what it says/,
    ],
    [
      'when it was',
      `update ledger set at = at + interval '1 hour' where seq = 1`,
      `update ledger set at = at - interval '1 hour' where seq = 1`,
      /columns do not say what it says/,
    ],
  ])('%s, changed behind its back, is found and named', async (_, change, back, why) => {
    await behindTheBack(change);
    expect((await proveLedger()).broken).toEqual({ seq: 1, why: expect.stringMatching(why) });
    await behindTheBack(back);
    expect((await proveLedger()).broken).toBeUndefined();
  });

  test('a missing entry is found by its number', async () => {
    const [kept] = (await db().query<{ seq: string }>('select seq from ledger where seq = 3')).rows;
    expect(kept).toBeDefined();
    await behindTheBack('create table kept as select * from ledger where seq = 3');
    await behindTheBack('delete from ledger where seq = 3');
    expect((await proveLedger()).broken).toEqual({ seq: 4, why: 'entry 3 is missing' });
    await behindTheBack('insert into ledger select * from kept');
    expect((await proveLedger()).broken).toBeUndefined();
  });
});
