/** Who looks at a page. */
import { cookies } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import type { Person } from '../../contract/api.ts';
import { isEmptyInstallation, personOf } from '../people/service.ts';
import { onceAPage } from '../once-a-page.ts';
import { Problem } from '../problem.ts';
import { SESSION_COOKIE } from './session-cookie.ts';

/** The person, or off to the door; who has to change their password first, off to their account. */
export async function visitor(when: { readonly early?: boolean } = {}): Promise<Person> {
  const token = (await cookies()).get(SESSION_COOKIE)?.value;
  const look = (): Promise<Person | undefined> => personOf(token, when);
  const person = await onceAPage(`visitor ${when.early ?? false}`, look).catch((error: unknown) => {
    if (error instanceof Problem && error.code === 'change-password') redirect('/account');
    throw error;
  });
  if (person) return person;
  redirect((await isEmptyInstallation()) ? '/first' : '/sign-in');
}

const UUID = /^[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}$/i;

/** Loads what a page shows; what is not there becomes the "not found" page. */
export async function orNotFound<T>(id: string, load: () => Promise<T>): Promise<T> {
  if (!UUID.test(id)) notFound();
  try {
    return await load();
  } catch (error) {
    if (error instanceof Problem && error.status === 404) notFound();
    throw error;
  }
}
