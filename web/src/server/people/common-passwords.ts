/** Passwords that are tried first by whoever tries: those that turned up most often in lists of stolen ones. */
import { Problem } from '../problem.ts';

const LISTED_FROM = 10;
let known: Promise<ReadonlySet<string>> | undefined;

async function load(): Promise<ReadonlySet<string>> {
  const { dictionary } = await import('@zxcvbn-ts/language-common');
  const all = dictionary['passwords-common'] as readonly string[];
  return new Set(all.filter((word) => word.length >= LISTED_FROM));
}

/** Throws a Problem where a password is among the common ones, or hardly more than the name of its holder. */
export async function refuseCommon(password: string, { name, email }: { name: string; email: string }): Promise<void> {
  known ??= load();
  const plain = password.toLowerCase();
  const bare = plain.replace(/[^\p{L}]/gu, '');
  const own = [name, email, email.split('@')[0] ?? ''].map((text) => text.toLowerCase().replace(/[^\p{L}]/gu, ''));
  if ((await known).has(plain) || /^(.)\1*$/u.test(plain) || (bare !== '' && own.includes(bare)))
    throw new Problem(
      400,
      'common-password',
      'This password is one of the first that somebody would try. Take another one; several words in a row are good.',
    );
}
