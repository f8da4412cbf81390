import { randomBytes } from 'node:crypto';
import { png, zip } from '../../../../bench/series.ts';
import type { Person } from '../../contract/api.ts';
import { db, many, one } from '../db/pool.ts';
import { runWaitingJobs } from '../jobs/run.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { bringForward, listVersions } from '../versions/service.ts';
import { collect } from './collect.ts';
import { packFile, placeOf } from './pack.ts';
import { readContent, readWhole } from './reader.ts';
import { scrub } from './scrub.ts';
import { tally } from './tally.ts';

withTestDatabase();

let editor: Person;
let projectId: string;
let n = 0;

beforeAll(async () => {
  editor = await makeTestPerson('editor');
  projectId = (await makeProject(await makeTestPerson('lead'), 'Landing')).id;
});

/** A file with these contents as its versions; gives its id. Nothing is packed yet. */
async function fileOf(versions: readonly Uint8Array[], ending = 'bin'): Promise<string> {
  const name = `f${++n}.${ending}`;
  const { file } = await makeFile(editor, projectId, null, undefined, incoming(name, versions[0]!), { note: '' });
  for (const bytes of versions.slice(1))
    await checkIn(editor, file.id, incoming(name, bytes), { note: '', allowOtherFormat: true });
  return file.id;
}

interface Form {
  number: number;
  content_id: string;
  packed: boolean;
  base_id: string | null;
  depth: number;
  recipe_size: number;
  size: string;
}
const formsOf = (fileId: string): Promise<Form[]> =>
  many<Form & Record<string, unknown>>(
    db(),
    `
  select v.number, v.content_id, c.packed, c.base_id, c.depth, c.recipe_size, c.size from version v join content c on c.id = v.content_id where v.file_id = $1 order by v.number`,
    [fileId],
  );
const storedNow = async (): Promise<number> =>
  Number((await one<{ n: string }>(db(), 'select coalesce(sum(stored), 0) as n from chunk'))?.n);
const pack = (fileId: string): Promise<{ packed: number }> => packFile(fileId, async () => undefined);

async function expectBack(fileId: string, versions: readonly Uint8Array[]): Promise<void> {
  const forms = await formsOf(fileId);
  for (const [i, bytes] of versions.entries()) {
    const id = forms[i]!.content_id;
    expect((await readWhole(id)).equals(bytes)).toBe(true);
    const from = Math.floor(bytes.length / 3);
    const to = Math.floor(bytes.length / 2);
    const parts: Buffer[] = [];
    for await (const part of readContent(id, from, to)) parts.push(part);
    expect(Buffer.concat(parts).equals(bytes.subarray(from, to))).toBe(true);
  }
}

const lines = (seed: number): string[] =>
  Array.from(
    { length: 9000 },
    (_, i) => `#${i}=POINT((${((i * 7919 + seed) % 100_003) / 100},${((i * 104_729) % 99_991) / 100}));`,
  );
const texts = (count: number): Buffer[] => {
  const out = lines(n);
  const all: Buffer[] = [];
  for (let v = 0; v < count; v++) {
    for (let e = 0; e < 40; e++) out[(v * 811 + e * 97) % out.length] = `#${e}=POINT((${v}.${e},0.5));`;
    all.push(Buffer.from(out.join('\n')));
  }
  return all;
};

describe('versions are stored as differences', () => {
  test('and every one comes back, whole and in part, from a place that does not depend on its age', async () => {
    const versions = texts(20);
    const fileId = await fileOf(versions);
    const before = await storedNow();
    expect(await pack(fileId)).toEqual({ packed: 20 });
    const forms = await formsOf(fileId);
    expect(forms[0]).toMatchObject({ packed: true, base_id: null, depth: 0 });
    expect(forms.slice(1).every((f) => f.packed && f.base_id !== null)).toBe(true);
    // v9 and v17 start again near the root instead of lengthening the chain.
    expect([7, 8, 9, 15, 16].map((i) => forms[i]!.depth)).toEqual([7, 1, 2, 8, 2]);
    await expectBack(fileId, versions);
    await collect(undefined, 0);
    await expectBack(fileId, versions);
    expect(await storedNow()).toBeLessThan(before / 4);
    expect(await pack(fileId)).toEqual({ packed: 0 });
  });

  test('but not where nothing is shared, nor where a chain would outgrow its root', async () => {
    const random = [randomBytes(400_000), randomBytes(400_000)];
    const fileId = await fileOf(random);
    await pack(fileId);
    expect((await formsOf(fileId)).map((f) => f.base_id)).toEqual([null, null]);
    // A third of the content is new each time: after some versions a new root is cheaper to read.
    const growing: Buffer[] = [randomBytes(90_000)];
    for (let v = 1; v < 14; v++)
      growing.push(Buffer.concat([randomBytes(60_000), growing[v - 1]!.subarray(0, 30_000)]));
    const other = await fileOf(growing);
    await pack(other);
    const depths = (await formsOf(other)).map((f) => f.depth);
    expect(depths.slice(0, 3)).toEqual([0, 1, 2]);
    expect(depths.slice(3)).toContain(0);
    await expectBack(other, growing);
  });

  test('empty versions, one byte, and a version like one long before', async () => {
    const a = texts(1)[0]!;
    const versions = [Buffer.alloc(0), Buffer.from('x'), a, Buffer.alloc(0), a.subarray(0, 5000), a];
    const fileId = await fileOf(versions);
    await pack(fileId);
    await expectBack(fileId, versions);
  });

  test('large contents are taken a segment at a time', async () => {
    const base = randomBytes(20_000_000);
    const next = Buffer.concat([
      base.subarray(0, 1_000_000),
      Buffer.from('a pile more'),
      base.subarray(1_000_000, 18_000_000),
      base.subarray(18_000_500),
    ]);
    const fileId = await fileOf([base, next]);
    await pack(fileId);
    const [, second] = await formsOf(fileId);
    expect(second!.base_id).not.toBeNull();
    const cost = await one<{ bytes: string }>(db(), 'select chain_bytes as bytes from content where id = $1', [
      second!.content_id,
    ]);
    expect(Number(cost?.bytes)).toBeLessThan(1000);
    await expectBack(fileId, [base, next]);
  });

  test('places in a chain: every eighth stands on the last such one, every 64th on the last of those', () => {
    expect([1, 7, 8, 9, 16, 64, 72, 512].map(placeOf)).toEqual([1, 1, 8, 1, 8, 64, 8, 512]);
  });
});

describe('containers', () => {
  const book = (v: number): Uint8Array =>
    zip(
      [
        { name: 'sheet1.xml', bytes: texts(1)[0]! },
        { name: 'sheet2.xml', bytes: Buffer.from(`${lines(1).join('\n')}<v>${v}</v>`) },
      ],
      v,
    );

  test('with a second version are opened, and come back byte for byte', async () => {
    const versions = [1, 2, 3].map(book);
    const fileId = await fileOf(versions, 'xlsx');
    await pack(fileId);
    const forms = await formsOf(fileId);
    expect(forms.every((f) => f.recipe_size > 0)).toBe(true);
    expect(forms.map((f) => f.depth)).toEqual([0, 1, 2]);
    const costs = await one<{ bytes: string }>(db(), 'select chain_bytes as bytes from content where id = $1', [
      forms[2]!.content_id,
    ]);
    expect(Number(costs?.bytes)).toBeLessThan(versions[0]!.length / 50);
    await expectBack(fileId, versions);
    await collect(undefined, 0);
    await expectBack(fileId, versions);
  });

  test('with one version stay closed, because they are read more often than they would save', async () => {
    const fileId = await fileOf([book(1)], 'xlsx');
    await pack(fileId);
    expect(await formsOf(fileId)).toMatchObject([{ packed: false, recipe_size: 0 }]);
    await checkIn(editor, fileId, incoming('b.xlsx', book(2)), { note: '' });
    await pack(fileId);
    expect((await formsOf(fileId)).every((f) => f.packed && f.recipe_size > 0)).toBe(true);
  });

  test('pictures too; the settings of their program are remembered', async () => {
    const paint = (tone: number) => png(200, 150, (x, y) => [x < 30 && y < 30 ? tone : (x * y) % 256, x, y], 9);
    const versions = [paint(1), paint(2), paint(3)];
    const fileId = await fileOf(versions, 'png');
    await pack(fileId);
    expect((await formsOf(fileId)).every((f) => f.recipe_size > 0)).toBe(true);
    const hint = await one<{ settings: unknown[] }>(
      db(),
      `select settings from deflate_hint where program like 'png%'`,
    );
    expect(hint?.settings[0]).toMatchObject({ engine: 'zlib/pako2', level: 9, strategy: 1 });
    await expectBack(fileId, versions);
  });

  test('a broken one is kept as it is', async () => {
    const versions = [book(1), book(2)].map((b) => b.slice(0, b.length - 700));
    const fileId = await fileOf(versions, 'xlsx');
    await pack(fileId);
    expect((await formsOf(fileId)).every((f) => f.packed && f.recipe_size === 0)).toBe(true);
    await expectBack(fileId, versions);
  });
});

test('a content is read on from its new place when it is packed and cleared up in the middle of a download', async () => {
  const versions = texts(3).map((t) => Buffer.concat([t, randomBytes(5_000_000)]));
  const fileId = await fileOf(versions);
  const forms = await formsOf(fileId);
  const reading = readContent(forms[1]!.content_id);
  const parts: Buffer[] = [];
  parts.push((await reading.next()).value as Buffer);
  await pack(fileId);
  await collect(undefined, 0);
  for await (const part of reading) parts.push(part);
  expect(Buffer.concat(parts).equals(versions[1]!)).toBe(true);
});

test('check-ins, packing and collecting at the same time lose nothing', async () => {
  const versions = texts(12);
  const files = new Map<string, Buffer[]>();
  let going = true;
  const collecting = (async () => {
    let rounds = 0;
    while (going) {
      await collect(undefined, 0);
      rounds++;
    }
    return rounds;
  })();
  await Promise.all(
    [0, 1, 2].map(async (who) => {
      for (let round = 0; round < 4; round++) {
        // Some contents are shared with other senders, some were stored before and perhaps just removed.
        const mine = versions
          .map((v, i) => ((i + round) % 3 ? v : Buffer.concat([v, Buffer.from(`${who} ${round}`)])))
          .slice(round, round + 6);
        const fileId = await fileOf(mine);
        files.set(fileId, mine);
        await pack(fileId);
      }
    }),
  );
  going = false;
  expect(await collecting).toBeGreaterThan(0);
  for (const [fileId, mine] of files) {
    const forms = await formsOf(fileId);
    expect(forms).toHaveLength(new Set(mine.map(String)).size === mine.length ? mine.length : forms.length);
    for (const form of forms) expect(mine.some((m) => m.length === Number(form.size))).toBe(true);
    for (const form of forms) await readWhole(form.content_id);
  }
});

describe('the scrub', () => {
  test('finds nothing in a sound store', async () => {
    const report = await scrub();
    expect(report).toMatchObject({ damagedChunks: 0, damagedContents: 0, damaged: [] });
    expect(report.contents).toBeGreaterThan(20);
  });

  test('names the versions of the files that a flipped byte spoils, through differences too', async () => {
    const versions = texts(4);
    const fileId = await fileOf(versions);
    const sound = await fileOf(texts(2));
    await pack(fileId);
    await pack(sound);
    const forms = await formsOf(fileId);
    const file = await one<{ name: string }>(db(), 'select name from file where id = $1', [fileId]);
    const hit = await one<{ id: string }>(
      db(),
      `select ('x' || encode(substring(manifest for 8), 'hex'))::bit(64)::bigint as id from content where id = $1`,
      [forms[1]!.content_id],
    );
    await db().query('update chunk set data = set_byte(data, 20, get_byte(data, 20) # 16) where id = $1', [hit!.id]);
    const report = await scrub();
    expect(report.damagedChunks).toBe(1);
    expect(report.damaged).toEqual([{ fileId, file: file!.name, project: 'Landing', versions: [2, 3, 4] }]);
    await expect(readWhole(forms[3]!.content_id)).rejects.toThrow(/damaged/);
    expect((await readWhole(forms[0]!.content_id)).equals(versions[0]!)).toBe(true);
    await expectBack(sound, []);
    await db().query('update chunk set data = set_byte(data, 20, get_byte(data, 20) # 16) where id = $1', [hit!.id]);
    expect((await scrub()).damagedChunks).toBe(0);
  });
});

describe('the tally', () => {
  test('what is kept, what it takes, and what saved the rest add up', async () => {
    const versions = texts(5);
    const fileId = await fileOf(versions);
    const [first] = await listVersions(editor, fileId);
    await bringForward(editor, first!.id, '');
    await runWaitingJobs(['pack']);
    await collect(undefined, 0);
    const report = await tally();
    const mine = report.files.find((f) => f.id === fileId)!;
    expect(mine.versions).toBe(6);
    expect(mine.kept).toBe([...versions, versions[0]!].reduce((sum, v) => sum + v.length, 0));
    expect(mine.stored).toBeLessThan(mine.kept / 5);
    const { copies, shared, differences, compression } = mine.saved;
    expect(copies).toBe(versions[0]!.length);
    expect(differences).toBeGreaterThan(versions[0]!.length * 3);
    expect(copies + shared + differences + compression + mine.stored).toBeCloseTo(mine.kept, 0);
    for (const group of [report.projects, report.kinds])
      expect(group.reduce((sum, g) => sum + g.kept, 0)).toBe(report.total.kept);
    expect(report.overTime.at(-1)).toMatchObject({ kept: report.total.kept, stored: report.total.stored });
    const really = await storedNow();
    expect(report.total.stored).toBeGreaterThan(really - report.total.unneeded);
    expect((await versionRow(first!.id)).size).toBe(String(versions[0]!.length));
  });
});
