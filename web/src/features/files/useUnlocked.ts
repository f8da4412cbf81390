/**
 * Passwords of locked documents, for as long as the page is open: they are sent with each question, and kept nowhere.
 */
import { createContext, useCallback, useContext, useState } from 'react';
import useSWR from 'swr';
import type { ComparisonResponse, Version, VersionDetail } from '../../contract/api.ts';
import { call, Refused } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';

type Look = VersionDetail['look'];

/** By id of the version. */
export const Passwords = createContext<ReadonlyMap<string, string>>(new Map());

export const usePassword = (version: Version | undefined): string | undefined =>
  useContext(Passwords).get(version?.id ?? '');

interface Unlocked {
  readonly passwords: ReadonlyMap<string, string>;
  readonly detail: VersionDetail | undefined;
  readonly compared: ComparisonResponse | undefined;
  /** Versions on the page that are locked, and whose password is not known. */
  readonly locked: readonly Version[];
  /** Gives a password for one; a sentence where it is not the right one. */
  readonly give: (version: Version, password: string) => Promise<string | undefined>;
}

/** What is on the page, as it is once the passwords are given. */
export function useUnlocked(
  a: Version,
  b: Version,
  detail: VersionDetail | undefined,
  compared: ComparisonResponse | undefined,
): Unlocked {
  const [passwords, setPasswords] = useState<ReadonlyMap<string, string>>(new Map());
  const [looks, setLooks] = useState<ReadonlyMap<string, Look>>(new Map());
  const comparing = a.id !== b.id;
  const sides = compared?.comparison;
  const lockedB = detail?.id === b.id && detail.look.locked;
  const lockedA = comparing && sides !== undefined && sides.a.locked === true;
  const wanted = [...(lockedA ? [a] : []), ...(lockedB ? [b] : [])];
  const locked = wanted.filter((v) => !passwords.has(v.id));
  const known = wanted.length > 0 && !locked.length && (!comparing || sides !== undefined);
  const opened = useSWR<ComparisonResponse, Error>(
    comparing && known ? `unlocked ${a.id} ${b.id} ${wanted.map((v) => v.id).join(' ')}` : null,
    () =>
      call(api.comparisons.unlock, {
        body: { a: a.id, b: b.id, passwordA: passwords.get(a.id), passwordB: passwords.get(b.id) },
      }),
    { revalidateOnFocus: false, shouldRetryOnError: false },
  );
  const give = useCallback(async (version: Version, password: string): Promise<string | undefined> => {
    try {
      const look = await call(api.versions.unlock, { versionId: version.id, body: { password } });
      setLooks((all) => new Map([...all, [version.id, look]]));
      setPasswords((all) => new Map([...all, [version.id, password]]));
      return undefined;
    } catch (error) {
      if (error instanceof Refused) return error.message;
      throw error;
    }
  }, []);
  const look = looks.get(b.id);
  return {
    passwords,
    detail: detail && look && detail.id === b.id ? { ...detail, look } : detail,
    compared: comparing && known ? opened.data : compared,
    locked,
    give,
  };
}
