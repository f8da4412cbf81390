import { db } from '../db/pool.ts';
import { countRows, withTestDatabase } from '../testing/database.ts';
import type { From } from './attempts.ts';
import { makePerson } from './managing.ts';
import { isEmptyInstallation, makeFirstAdministrator, personOf, signIn, signOut } from './service.ts';

withTestDatabase();

const first = { name: 'Marit', email: 'marit@test.example', password: 'a long password' };

test('the first administrator is made once, and is signed in', async () => {
  expect(await isEmptyInstallation()).toBe(true);
  const both = await Promise.allSettled([
    makeFirstAdministrator(first),
    makeFirstAdministrator({ ...first, email: 'other@test.example' }),
  ]);
  expect(both.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(await countRows('person')).toBe(1);
});

test('signing in gives a session until signing out; only hashes are kept', async () => {
  const admin = await personOf(
    (await db().query<{ email: string }>('select email from person')).rows[0] && (await signInFirst()).token,
  );
  const added = await makePerson(admin!, { ...first, name: 'Ines', email: 'ines@test.example', role: 'editor' });
  const { token, person } = await signIn(' INES@test.example ', first.password);
  expect(person).toMatchObject({ id: added.id, role: 'editor' });
  expect((await personOf(token, { early: true }))!.name).toBe('Ines');
  const kept = (
    await db().query<{ token_hash: Buffer; password_hash: string }>(
      'select token_hash, password_hash from session join person p on p.id = person_id where p.id = $1',
      [added.id],
    )
  ).rows[0]!;
  expect(kept.token_hash.toString('base64url')).not.toBe(token);
  expect(kept.password_hash).toMatch(/^\$argon2id\$/);
  await signOut(token);
  expect(await personOf(token)).toBeUndefined();
  await expect(makePerson(added, { ...first, email: 'x@test.example', role: 'reader' })).rejects.toThrow(
    /Ask an administrator/,
  );
});

test('an expired session lets nobody in', async () => {
  const { token } = await signInFirst();
  await db().query(`update session set expires_at = now() - interval '1 second'`);
  expect(await personOf(token)).toBeUndefined();
});

test('wrong passwords run out, also for names that do not exist', async () => {
  for (const email of ['ines@test.example', 'nobody@test.example']) {
    for (let i = 0; i < 10; i++) await expect(signIn(email, 'wrong')).rejects.toMatchObject({ status: 401 });
    await expect(signIn(email, first.password)).rejects.toMatchObject({
      status: 429,
      message: expect.stringMatching(/Try again in 15 minutes/) as string,
    });
  }
});

describe('attempts', () => {
  const wrong = (from: From, email = 'ruth@test.example'): Promise<unknown> => signIn(email, 'wrong', from);
  const stranger = { address: '203.0.113.9', browser: undefined };
  const own = { address: '198.51.100.4', browser: undefined };
  const exhaust = async (from: From): Promise<void> => {
    for (let i = 0; i < 10; i++) await expect(wrong(from)).rejects.toMatchObject({ status: 401 });
    await expect(wrong(from)).rejects.toMatchObject({ status: 429 });
  };
  let known = '';
  beforeAll(async () => {
    const { person } = await signInFirst();
    await makePerson(person, { ...first, name: 'Ruth', email: 'ruth@test.example', role: 'editor' });
    known = (await signIn('ruth@test.example', first.password, own)).browser ?? '';
  });
  beforeEach(async () => {
    await db().query('delete from sign_in_attempt');
  });

  test('of a stranger do not lock the door for others', async () => {
    await exhaust(stranger);
    expect((await signIn('ruth@test.example', first.password, own)).person.name).toBe('Ruth');
  });

  test('even from the same address do not lock out a browser that is known, and a known one is counted, too', async () => {
    await exhaust(own);
    const back = await signIn('ruth@test.example', first.password, { ...own, browser: known });
    expect(back.person.name).toBe('Ruth');
    // It is known already.
    expect(back.browser).toBeUndefined();
    await exhaust({ ...own, browser: known });
  });

  test('a browser that is known for somebody else is a stranger', async () => {
    await exhaust({ ...stranger, browser: 'made up' });
    await expect(wrong({ ...stranger, browser: 'another' })).rejects.toMatchObject({ status: 429 });
  });

  test('wait longer each time that they run out', async () => {
    const waits: number[] = [];
    for (let round = 0; round < 3; round++) {
      for (let i = 0; i < 10; i++) await wrong(stranger).catch(() => undefined);
      const { message } = (await wrong(stranger).catch((error: unknown) => error)) as Error;
      waits.push(Number(/in (\d+) minutes/.exec(message)?.[1]));
      await db().query("delete from sign_in_attempt where key like 'pause:%'");
    }
    expect(waits).toEqual([15, 30, 60]);
  });

  test('of many names from one address run out together', async () => {
    for (let i = 0; i < 100; i++) await wrong(stranger, `nobody${i}@test.example`).catch(() => undefined);
    await expect(wrong(stranger, 'one-more@test.example')).rejects.toMatchObject({ status: 429 });
    await expect(wrong(own, 'one-more@test.example')).rejects.toMatchObject({ status: 401 });
  });
});

const signInFirst = async () => {
  const { rows } = await db().query<{ email: string }>(`select email from person where role = 'administrator'`);
  return signIn(rows[0]!.email, first.password);
};
