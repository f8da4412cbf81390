import { join } from 'node:path';
import { z } from 'zod';
import { TooHeavy } from '../compute/pool.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { makeFile } from '../versions/checkin.ts';
import { versionRow } from '../versions/rows.ts';
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
