/** Accounts: what people do with their own, and administrators with those of others. */
import { TOTP, Secret } from 'otpauth';
import type { Person } from '../../contract/api.ts';
import { checkOut } from '../checkouts/service.ts';
import { db } from '../db/pool.ts';
import { withOrigin } from '../ledger/origin.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, withTestDatabase } from '../testing/database.ts';
import { makeFile } from '../versions/checkin.ts';
import {
  accountOf,
  beginSecondFactor,
  changePassword,
  confirmSecondFactor,
  endOtherSessions,
  endSecondFactor,
  endSession,
} from './account.ts';
import {
  changePerson,
  deletePerson,
  endSecondFactorOf,
  endSessionsOf,
  givePassword,
  listPeople,
  makePerson,
} from './managing.ts';
import { callerOf, makeFirstAdministrator, personOf, signIn } from './service.ts';
import { makeToken } from './tokens.ts';

withTestDatabase();

const password = 'gangway lowered at noon';
const another = 'shelter roof in larch';
let marit: Person;
let ines: Person;
let count = 0;

/** Somebody who has set a password of their own. */
async function somebody(role: Person['role'] = 'editor'): Promise<Person> {
  count += 1;
  const { id, name, email } = await makePerson(marit, {
    name: `Somebody ${count}`,
    email: `somebody-${count}@test.example`,
    password,
    role,
  });
  await db().query('update person set password_is_temporary = false where id = $1', [id]);
  return { id, name, email, role };
}

beforeAll(async () => {
  marit = (await makeFirstAdministrator({ name: 'Marit', email: 'marit@test.example', password })).person;
});

beforeEach(async () => {
  await db().query('delete from sign_in_attempt');
  ines = await somebody();
});

/** What a request in a session of theirs does. */
const inSession = <T>(token: string, work: (by: Person) => Promise<T>): Promise<T> =>
  withOrigin(new Headers({ 'user-agent': 'a test' }), async () => {
    const by = await personOf(token, { early: true });
    if (!by) throw new Error('signed out');
    return work(by);
  });

const open = async (person: Person, code?: string): Promise<string> =>
  (await signIn(person.email, password, undefined, code)).token;

const isIn = async (token: string): Promise<boolean> => (await personOf(token)) !== undefined;

const acts = async (): Promise<string[]> =>
  (await db().query<{ act: string }>('select act from ledger order by seq desc limit 3')).rows.map((row) => row.act);

const codeOf = (secret: string, at = Date.now()): string =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });

describe('a password', () => {
  test('that an administrator gave opens nothing but the way to one of their own', async () => {
    const email = 'first@test.example';
    await makePerson(marit, { name: 'First', email, password, role: 'editor' });
    const { token } = await signIn(email, password);
    await expect(personOf(token)).rejects.toMatchObject({ status: 403, code: 'change-password' });
    const account = await inSession(token, (by) => changePassword(by, password, another));
    expect(account.temporary).toBe(false);
    expect((await personOf(token))?.name).toBe('First');
  });

  test('that is changed ends all other sessions and all tokens, not the one that changes it', async () => {
    const [here, there] = [await open(ines), await open(ines)];
    const { token } = await makeToken(ines, { name: 'script', scope: 'desk', days: 9 });
    await inSession(here, (by) => changePassword(by, password, another));
    expect([await isIn(here), await isIn(there)]).toEqual([true, false]);
    await expect(callerOf({ cookie: undefined, authorization: `Bearer ${token}`, changes: false })).rejects.toThrow(
      'revoked',
    );
    await expect(signIn(ines.email, password)).rejects.toMatchObject({ status: 401 });
    expect((await signIn(ines.email, another)).person.id).toBe(ines.id);
    expect(await acts()).toContain('changed their password');
  });

  test('is changed only by who knows it, however often somebody guesses', async () => {
    const here = await open(ines);
    const guess = (): Promise<unknown> => inSession(here, (by) => changePassword(by, 'a wrong guess', another));
    for (let i = 0; i < 10; i++) await expect(guess()).rejects.toMatchObject({ code: 'wrong-password' });
    await expect(guess()).rejects.toMatchObject({ status: 429 });
    expect((await signIn(ines.email, password)).person.id).toBe(ines.id);
  });

  test.each(['1q2w3e4r5t', 'PASSWORD123', 'aaaaaaaaaaaa', 'Somebody-12345'])(
    'that many would try first is refused: %s',
    async (common) => {
      const here = await open(ines);
      await expect(inSession(here, (by) => changePassword(by, password, common))).rejects.toMatchObject({
        code: 'common-password',
      });
      await expect(
        makePerson(marit, { name: 'Somebody', email: 'new@test.example', password: common, role: 'reader' }),
      ).rejects.toMatchObject({ code: 'common-password' });
    },
  );

  test('of somebody else is given by an administrator, and they are signed out', async () => {
    const here = await open(ines);
    const member = await givePassword(marit, ines.id, another);
    expect(member).toMatchObject({ temporary: true, sessions: 0 });
    expect(await isIn(here)).toBe(false);
    const { token } = await signIn(ines.email, another);
    await expect(personOf(token)).rejects.toMatchObject({ code: 'change-password' });
    await expect(givePassword(marit, marit.id, another)).rejects.toMatchObject({ code: 'yourself' });
  });
});

describe('sessions', () => {
  test('are listed with where they come from, and can be ended one by one or together', async () => {
    const here = await open(ines);
    const there = await withOrigin(new Headers({ 'user-agent': 'Other/1' }), () => open(ines));
    const third = await open(ines);
    const { sessions } = await inSession(here, accountOf);
    expect(sessions).toHaveLength(3);
    expect(sessions.filter((session) => session.current)).toHaveLength(1);
    const other = sessions.find((session) => session.origin === 'Other/1');
    await inSession(here, (by) => endSession(by, other!.id));
    expect([await isIn(here), await isIn(there), await isIn(third)]).toEqual([true, false, true]);
    const left = await inSession(here, endOtherSessions);
    expect(left.sessions).toHaveLength(1);
    expect([await isIn(here), await isIn(third)]).toEqual([true, false]);
  });

  test('of others cannot be ended by their ids, nor the own one by accident', async () => {
    const [mine, theirs] = [await open(ines), await open(await somebody())];
    const foreign = (await inSession(theirs, accountOf)).sessions[0]!.id;
    await expect(inSession(mine, (by) => endSession(by, foreign))).rejects.toMatchObject({ status: 404 });
    const own = (await inSession(mine, accountOf)).sessions[0]!.id;
    await expect(inSession(mine, (by) => endSession(by, own))).rejects.toMatchObject({ code: 'this-session' });
    expect([await isIn(mine), await isIn(theirs)]).toEqual([true, true]);
  });

  test('that nobody used for days end by themselves; one that is used goes on', async () => {
    const token = await open(ines);
    await db().query(`update session set seen_at = now() - interval '2 days' where person_id = $1`, [ines.id]);
    expect(await isIn(token)).toBe(true);
    await db().query(`update session set seen_at = seen_at - interval '2 days' where person_id = $1`, [ines.id]);
    expect(await isIn(token)).toBe(true);
    await db().query(`update session set seen_at = now() - interval '4 days' where person_id = $1`, [ines.id]);
    expect(await isIn(token)).toBe(false);
  });

  test('and tokens of somebody are ended by an administrator, also their own', async () => {
    const token = await open(ines);
    const { token: script } = await makeToken(ines, { name: 'script', scope: 'read', days: 9 });
    expect(await endSessionsOf(marit, ines.id)).toMatchObject({ sessions: 0, tokens: 0 });
    expect(await isIn(token)).toBe(false);
    await expect(callerOf({ cookie: undefined, authorization: `Bearer ${script}`, changes: false })).rejects.toThrow();
    const own = await open(marit);
    await inSession(own, (by) => endSessionsOf(by, marit.id));
    expect(await isIn(own)).toBe(false);
  });
});

describe('a second factor', () => {
  const setUp = async (): Promise<{ secret: string; codes: string[]; session: string }> => {
    const session = await open(ines);
    const { secret, uri, picture } = await inSession(session, (by) => beginSecondFactor(by, password));
    expect(uri).toContain(`secret=${secret}`);
    expect(picture).toMatch(/^data:image\/png/);
    const { codes } = await inSession(session, (by) => confirmSecondFactor(by, codeOf(secret, Date.now() - 30_000)));
    return { secret, codes, session };
  };

  test('is asked for after the right password, and opens once', async () => {
    const { secret } = await setUp();
    await expect(signIn(ines.email, 'a wrong password')).rejects.toMatchObject({ code: 'wrong-sign-in' });
    await expect(signIn(ines.email, password)).rejects.toMatchObject({ code: 'second-factor' });
    await expect(open(ines, '000000')).rejects.toMatchObject({ code: 'wrong-code' });
    const code = codeOf(secret);
    expect(await isIn(await open(ines, `${code.slice(0, 3)} ${code.slice(3)}`))).toBe(true);
    await expect(open(ines, code)).rejects.toMatchObject({ code: 'wrong-code' });
  });

  test('of two who show the same code at once lets one in', async () => {
    const { secret } = await setUp();
    const code = codeOf(secret);
    const both = await Promise.allSettled([open(ines, code), open(ines, code)]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  test('codes that are old, or from a time to come, open nothing', async () => {
    const { secret } = await setUp();
    for (const at of [-10 * 60_000, 10 * 60_000])
      await expect(open(ines, codeOf(secret, Date.now() + at))).rejects.toMatchObject({ code: 'wrong-code' });
  });

  test('wrong codes run out like wrong passwords', async () => {
    await setUp();
    for (let i = 0; i < 10; i++) await expect(open(ines, '000000')).rejects.toMatchObject({ code: 'wrong-code' });
    await expect(open(ines, '000000')).rejects.toMatchObject({ status: 429 });
  });

  test('recovery codes open once each, however they are typed', async () => {
    const { codes, session } = await setUp();
    expect(new Set(codes).size).toBe(10);
    expect(await isIn(await open(ines, codes[0]!.toUpperCase()))).toBe(true);
    expect(await isIn(await open(ines, codes[1]!.replace('-', ' ')))).toBe(true);
    await expect(open(ines, codes[0])).rejects.toMatchObject({ code: 'wrong-code' });
    expect((await inSession(session, accountOf)).secondFactor?.codesLeft).toBe(8);
  });

  test('does not hold before a code has proved it', async () => {
    const session = await open(ines);
    await inSession(session, (by) => beginSecondFactor(by, password));
    await expect(inSession(session, (by) => confirmSecondFactor(by, '000000'))).rejects.toMatchObject({
      code: 'wrong-code',
    });
    expect(await isIn(await open(ines))).toBe(true);
  });

  test('is ended with the password, or by an administrator for who lost it', async () => {
    const { session } = await setUp();
    await expect(inSession(session, (by) => endSecondFactor(by, 'a wrong password'))).rejects.toMatchObject({
      code: 'wrong-password',
    });
    expect((await inSession(session, (by) => endSecondFactor(by, password))).secondFactor).toBeNull();
    expect(await isIn(await open(ines))).toBe(true);
    await setUp();
    expect(await endSecondFactorOf(marit, ines.id)).toMatchObject({ secondFactor: false, sessions: 0 });
    expect(await isIn(await open(ines))).toBe(true);
  });
});

describe('people', () => {
  test('who are deactivated are out at once, and back when they are activated', async () => {
    const token = await open(ines);
    await changePerson(marit, ines.id, { state: 'deactivated' });
    expect(await isIn(token)).toBe(false);
    await expect(signIn(ines.email, password)).rejects.toMatchObject({ status: 403, code: 'deactivated' });
    await expect(signIn(ines.email, 'a wrong password')).rejects.toMatchObject({ code: 'wrong-sign-in' });
    await changePerson(marit, ines.id, { state: 'active' });
    expect(await isIn(await open(ines))).toBe(true);
  });

  test('keep their session when their role changes, and have the new one at the next request', async () => {
    const token = await open(ines);
    await changePerson(marit, ines.id, { role: 'reader', name: 'Ines Amsel' });
    expect(await personOf(token)).toMatchObject({ role: 'reader', name: 'Ines Amsel' });
    expect(await acts()).toEqual(expect.arrayContaining(['changed a role', 'renamed a person']));
  });

  test('who are deleted leave their name, and nothing that opens', async () => {
    const token = await open(ines);
    const { id: projectId } = await makeProject(marit, 'Landing');
    const made = await makeFile(ines, projectId, null, undefined, incoming('plan.txt', 'one'), { note: '' });
    await checkOut(ines, [made.file.id]);
    await deletePerson(marit, ines.id);
    expect(await isIn(token)).toBe(false);
    await expect(signIn(ines.email, password)).rejects.toMatchObject({ code: 'wrong-sign-in' });
    expect((await listPeople(marit)).map((person) => person.id)).not.toContain(ines.id);
    const { rows } = await db().query<{ name: string; held: boolean }>(
      `select p.name, exists (select from checkout c where c.file_id = f.id) as held
       from file f join person p on p.id = f.created_by where f.project_id = $1`,
      [projectId],
    );
    expect(rows).toEqual([{ name: ines.name, held: false }]);
    // The address is free.
    const again = await makePerson(marit, { name: 'Ines again', email: ines.email, password, role: 'reader' });
    expect(again.id).not.toBe(ines.id);
    await expect(deletePerson(marit, ines.id)).rejects.toMatchObject({ status: 404 });
  });

  test('always have an administrator, also when two put each other out at once', async () => {
    await expect(changePerson(marit, marit.id, { role: 'lead' })).rejects.toMatchObject({ code: 'last-administrator' });
    const other = await somebody('administrator');
    const both = await Promise.allSettled([
      changePerson(marit, other.id, { role: 'lead' }),
      changePerson(other, marit.id, { role: 'lead' }),
    ]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    const { rows } = await db().query<{ n: number }>(
      `select count(*)::int as n from person where role = 'administrator' and state = 'active'`,
    );
    expect(rows[0]?.n).toBe(1);
    await db().query(`update person set role = 'administrator' where id = $1`, [marit.id]);
    await db().query(`update person set role = 'editor' where id = $1`, [other.id]);
  });

  test('are managed by administrators only, and nobody puts themselves out', async () => {
    for (const role of ['lead', 'editor', 'reader', 'guest'] as const) {
      const by = await somebody(role);
      await expect(changePerson(by, ines.id, { role: 'administrator' })).rejects.toMatchObject({ status: 403 });
      await expect(deletePerson(by, ines.id)).rejects.toMatchObject({ status: 403 });
      await expect(givePassword(by, ines.id, another)).rejects.toMatchObject({ status: 403 });
      await expect(endSessionsOf(by, ines.id)).rejects.toMatchObject({ status: 403 });
      await expect(endSecondFactorOf(by, ines.id)).rejects.toMatchObject({ status: 403 });
    }
    await expect(deletePerson(marit, marit.id)).rejects.toMatchObject({ code: 'yourself' });
    await expect(changePerson(marit, marit.id, { state: 'deactivated' })).rejects.toMatchObject({ code: 'yourself' });
  });

  test('who were administrators when they asked, but are not any more, change nothing', async () => {
    const former = await somebody('administrator');
    await changePerson(marit, former.id, { role: 'editor' });
    await expect(changePerson(former, ines.id, { role: 'administrator' })).rejects.toMatchObject({ status: 403 });
  });
});
