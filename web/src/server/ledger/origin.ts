/** Where the request that is being served comes from: an address and a program. */
import { AsyncLocalStorage } from 'node:async_hooks';

// Next may load this module more than once in one process.
const holder = globalThis as typeof globalThis & { ovrelOrigin?: AsyncLocalStorage<string> };
const storage = (): AsyncLocalStorage<string> => (holder.ovrelOrigin ??= new AsyncLocalStorage());

/** Set by the server for every request; a header of that name from outside is overwritten. */
export const PEER_HEADER = 'x-ovrel-peer';

export const originNow = (): string => storage().getStore() ?? 'the server itself';

export function withOrigin<T>(headers: { get: (name: string) => string | null }, work: () => T): T {
  const program = (headers.get('user-agent') ?? '').slice(0, 160);
  return storage().run([headers.get(PEER_HEADER) ?? '', program].filter(Boolean).join(', ') || 'unknown', work);
}
