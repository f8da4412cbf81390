/** What administrators do with people: add, change, put out, let in again. All of it lands in the ledger. */
import type { z } from 'zod';
import type { newPersonSchema, Person } from '../../contract/api.ts';
import type { changePersonSchema, Member } from '../../contract/account.ts';
import { giveUpAll } from '../checkouts/service.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { record, type Act } from '../ledger/ledger.ts';
import { notFound, Problem } from '../problem.ts';
import {
  accountRow,
  dropKnownBrowsers,
  dropSessions,
  emptyPerson,
  forgetPerson,
  lockAccount,
  memberRows,
  otherAdministrators,
  replaceRecoveryCodes,
  revokeTokens,
  setSecondFactor,
  updatePassword,
  updatePerson,
  type AccountRow,
} from './account-rows.ts';
import { refuseCommon } from './common-passwords.ts';
import { hashPassword } from './passwords.ts';
import { require } from './permissions.ts';
import { insertPersonRow, lockPeople } from './rows.ts';

const memberOf = ({ seen_at, second_factor, ...row }: Awaited<ReturnType<typeof memberRows>>[number]): Member => ({
  ...row,
  secondFactor: second_factor,
  seenAt: seen_at?.toISOString() ?? null,
});

export async function listPeople(by: Person): Promise<Member[]> {
  require(by, 'manage people');
  return (await memberRows(db())).map(memberOf);
}

/** Adds a person with a password that they have to change. */
export async function makePerson(by: Person, input: z.infer<typeof newPersonSchema>): Promise<Member> {
  require(by, 'manage people');
  await refuseCommon(input.password, input);
  const hash = await hashPassword(input.password);
  return transaction(async (client) => {
    const made = await insertPersonRow(client, input.name, input.email, input.role, hash);
    if (!made) throw new Error('a person was not inserted');
    await updatePassword(client, made.id, hash, true);
    await record(client, [{ act: 'added a person', by, subject: `${made.name}, ${made.role}` }]);
    return memberIn(client, made.id);
  }).catch((error: { code?: string }) => {
    if (error.code === '23505') throw new Problem(409, 'name-taken', `Someone already signs in as ${input.email}.`);
    throw error;
  });
}

async function memberIn(client: Client, personId: string): Promise<Member> {
  const [row] = await memberRows(client, personId);
  if (!row) throw notFound('person');
  return memberOf(row);
}

/** Work on one person, with everybody locked: who asks must still be an administrator. */
async function withPerson<T>(
  by: Person,
  personId: string,
  work: (client: Client, person: AccountRow) => Promise<T>,
): Promise<T> {
  require(by, 'manage people');
  return transaction(async (client) => {
    await lockPeople(client);
    const asking = await accountRow(client, by.id);
    if (asking?.state !== 'active') throw new Problem(403, 'not-allowed', 'You were put out meanwhile.');
    require(asking, 'manage people');
    const person = await lockAccount(client, personId);
    if (!person) throw notFound('person');
    return work(client, person);
  });
}

/** Throws where nobody would be left who manages people. */
async function keepAnAdministrator(client: Client, person: AccountRow): Promise<void> {
  if (person.role !== 'administrator' || person.state !== 'active') return;
  if (await otherAdministrators(client, person.id)) return;
  throw new Problem(
    409,
    'last-administrator',
    `${person.name} is the only administrator. Make somebody else one first: without any, nobody could manage people.`,
  );
}

/** Changes name, role or state. Whoever is deactivated is signed out everywhere at once, and their tokens end. */
export const changePerson = (
  by: Person,
  personId: string,
  wanted: z.infer<typeof changePersonSchema>,
): Promise<Member> =>
  withPerson(by, personId, async (client, person) => {
    const next = {
      name: wanted.name ?? person.name,
      role: wanted.role ?? person.role,
      state: wanted.state ?? person.state,
    };
    if (next.state === 'deactivated' && personId === by.id)
      throw new Problem(409, 'yourself', 'You cannot deactivate yourself. Another administrator can.');
    if (next.role !== 'administrator' || next.state !== 'active') await keepAnAdministrator(client, person);
    await updatePerson(client, personId, next);
    if (next.state === 'deactivated') await putOut(client, personId);
    await record(
      client,
      actsOf(person, next).map(([act, subject]) => ({ act, by, subject })),
    );
    return memberIn(client, personId);
  });

type Changeable = Pick<AccountRow, 'name' | 'role' | 'state'>;

function actsOf(before: Changeable, after: Changeable): (readonly [Act, string])[] {
  const acts: (readonly [Act, string])[] = [];
  if (before.name !== after.name) acts.push(['renamed a person', `${before.name} → ${after.name}`]);
  if (before.role !== after.role) acts.push(['changed a role', `${after.name}: ${before.role} → ${after.role}`]);
  if (before.state !== after.state)
    acts.push([after.state === 'active' ? 'activated a person' : 'deactivated a person', after.name]);
  return acts;
}

/** Ends everything that is open in somebody's name. */
async function putOut(client: Client, personId: string): Promise<void> {
  await dropSessions(client, personId, undefined);
  await revokeTokens(client, personId);
  await dropKnownBrowsers(client, personId);
}

/** What they made stays under their name; what they hold is given up; their address is free for somebody else. */
export async function deletePerson(by: Person, personId: string): Promise<void> {
  if (personId === by.id) throw new Problem(409, 'yourself', 'You cannot delete yourself. Another administrator can.');
  await withPerson(by, personId, async (client, person) => {
    await keepAnAdministrator(client, person);
    await putOut(client, personId);
    await forgetPerson(client, personId);
    await emptyPerson(client, personId);
    await giveUpAll(client, by, personId, `${person.name} was deleted`);
    await record(client, [{ act: 'deleted a person', by, subject: `${person.name}, ${person.email}` }]);
  });
}

/** Gives somebody a password that opens until they have set one of their own. */
export async function givePassword(by: Person, personId: string, password: string): Promise<Member> {
  const hash = await hashPassword(password);
  return changed(by, personId, 'gave a password', async (client, person) => {
    if (personId === by.id) throw new Problem(409, 'yourself', 'Change your own password on the page “Account”.');
    await refuseCommon(password, person);
    await updatePassword(client, personId, hash, true);
    await putOut(client, personId);
  });
}

export const endSessionsOf = (by: Person, personId: string): Promise<Member> =>
  changed(by, personId, 'ended sessions', (client) => putOut(client, personId));

/** For somebody who lost their authenticator. Their sessions end, too: who has the device may be somebody else. */
export const endSecondFactorOf = (by: Person, personId: string): Promise<Member> =>
  changed(by, personId, 'ended a second factor', async (client) => {
    await setSecondFactor(client, personId, null);
    await replaceRecoveryCodes(client, personId, []);
    await putOut(client, personId);
  });

const changed = (
  by: Person,
  personId: string,
  act: Act,
  work: (client: Client, person: AccountRow) => Promise<unknown>,
): Promise<Member> =>
  withPerson(by, personId, async (client, person) => {
    await work(client, person);
    // Whoever ends their own session with it is still the one who did it.
    await record(client, [{ act, by, subject: person.name }], { evenIfEnded: personId === by.id });
    return memberIn(client, personId);
  });
