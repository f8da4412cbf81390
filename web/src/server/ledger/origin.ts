/** Where the request that is being served comes from: an address and a program, and the access token that it shows. */
import { AsyncLocalStorage } from 'node:async_hooks';
import { single } from '../single.ts';

interface Origin {
  readonly text: string;
  tokenId: string | undefined;
  /** Hash of the token of the session. */
  session: Buffer | undefined;
  personId: string | undefined;
}

const storage = (): AsyncLocalStorage<Origin> => single('origin', () => new AsyncLocalStorage<Origin>());

/** Set by the server for every request; a header of that name from outside is overwritten. */
export const PEER_HEADER = 'x-ovrel-peer';

export const originNow = (): string => storage().getStore()?.text ?? 'the server itself';

/** The token in whose name the request acts; undefined for people themselves. */
export const tokenNow = (): string | undefined => storage().getStore()?.tokenId;

/** The session in which the request acts; undefined for programs, and for the server itself. */
export const sessionNow = (): Buffer | undefined => storage().getStore()?.session;

/** Who asks; undefined where the server works by itself. */
export const personNow = (): string | undefined => storage().getStore()?.personId;

export function actsFor(personId: string): void {
  const origin = storage().getStore();
  if (origin) origin.personId = personId;
}

export function actsInSession(hash: Buffer): void {
  const origin = storage().getStore();
  if (origin) origin.session = hash;
}

export function actsByToken(tokenId: string): void {
  const origin = storage().getStore();
  if (origin) origin.tokenId = tokenId;
}

export function withOrigin<T>(headers: { get: (name: string) => string | null }, work: () => T): T {
  const program = (headers.get('user-agent') ?? '').slice(0, 160);
  const text = [headers.get(PEER_HEADER) ?? '', program].filter(Boolean).join(', ') || 'unknown';
  return storage().run({ text, tokenId: undefined, session: undefined, personId: undefined }, work);
}
