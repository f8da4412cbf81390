import { db } from '../db/pool.ts';
import { countRows, withTestDatabase } from '../testing/database.ts';
import { isEmptyInstallation, makeFirstAdministrator, makePerson, personOf, signIn, signOut } from './service.ts';

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
  expect((await personOf(token))!.name).toBe('Ines');
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

const signInFirst = async () => {
  const { rows } = await db().query<{ email: string }>(`select email from person where role = 'administrator'`);
  return signIn(rows[0]!.email, first.password);
};
