import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { selfInvokingDocument } from '../../../../fuzz/hostile.ts';
import type { VersionDetail } from '../../contract/api.ts';
import { z } from 'zod';
import { TooHeavy } from '../compute/pool.ts';
import { db, many } from '../db/pool.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
import { getVersion } from '../versions/service.ts';
import { jsonOf } from './codec.ts';
import { computed, type Fact } from './fact.ts';

withTestDatabase();
process.env['OVREL_ROOT'] = join(__dirname, '../../../..');

let contentId: string;
let asked = 0;
beforeEach(async () => {
  const lead = await makeTestPerson('lead');
  const project = await makeProject(lead, `Landing ${Math.random()}`);
  const { file } = await makeFile(lead, project.id, null, undefined, incoming('a.txt', String(Math.random())), {
    note: '',
  });
  contentId = (await versionRow(file.newest.id)).content_id;
  asked = 0;
});

/** A made-up fact about a content. */
const fact = <Value>(schema: z.ZodType<Value>, compute: () => Value, version = 1): Fact<string, Value> => ({
  name: 'made up',
  version,
  placeOf: (id) => ({ contentId: id, detail: '' }),
  codec: jsonOf(schema),
  compute: async () => {
    asked++;
    return compute();
  },
});
const heavy = (): number => {
  throw new TooHeavy('It took too long.');
};

test('what is known is not computed again, but anew for a later version of the fact', async () => {
  expect(
    await computed(
      fact(z.number(), () => 1),
      contentId,
    ),
  ).toBe(1);
  expect(
    await computed(
      fact(z.number(), () => 2),
      contentId,
    ),
  ).toBe(1);
  expect(
    await computed(
      fact(z.number(), () => 3, 2),
      contentId,
    ),
  ).toBe(3);
  expect(asked).toBe(2);
});

test('what took too long is no fact: it waits, and is tried at once when somebody asks', async () => {
  await expect(computed(fact(z.number(), heavy), contentId)).rejects.toThrow(TooHeavy);
  await expect(
    computed(
      fact(z.number(), () => 7),
      contentId,
    ),
  ).rejects.toThrow('It took too long.');
  expect(asked).toBe(1);
  expect(
    await computed(
      fact(z.number(), () => 7),
      contentId,
      { again: true },
    ),
  ).toBe(7);
  expect(await computed(fact(z.number(), heavy), contentId)).toBe(7);
});

test('a kept value that is no such value any more is computed anew', async () => {
  await computed(
    fact(z.string(), () => 'once'),
    contentId,
  );
  expect(
    await computed(
      fact(z.number(), () => 5),
      contentId,
    ),
  ).toBe(5);
  expect(
    await computed(
      fact(z.number(), () => 6),
      contentId,
    ),
  ).toBe(5);
});

test('nothing is kept of a document that could not be looked into, and everything else goes on being looked into', async () => {
  const lead = await makeTestPerson('lead');
  const project = await makeProject(lead, `Landing ${Math.random()}`);
  const look = async (name: string, bytes: Uint8Array): Promise<VersionDetail['look']> => {
    const { file } = await makeFile(lead, project.id, null, undefined, incoming(name, bytes), { note: '' });
    return (await getVersion(lead, file.newest.id)).look;
  };
  const hostile = await look('hostile.pdf', selfInvokingDocument());
  expect(hostile).toMatchObject({
    parts: 0,
    again: true,
    problem: expect.stringMatching(/more memory than Ovrel allows/),
  });
  const sound = readFileSync(join(process.env['OVREL_ROOT'] ?? '', 'demo/real/drawing-by-program.pdf'));
  expect(await look('sound.pdf', sound)).toMatchObject({ level: 'parts', problem: null });
  const kept = await many<{ kind: string }>(
    db(),
    "select kind from fact f join content c on c.store_id = f.store_id and c.id = f.content_id where c.size = $1 and kind like 'look%'",
    [selfInvokingDocument().length],
  );
  expect(kept).toEqual([]);
});
