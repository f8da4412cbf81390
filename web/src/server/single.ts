/** What there is one of in a process, though Next may load a module more than once. */
const kept = globalThis as typeof globalThis & { ovrel?: Map<string, unknown> };

/** The one of that name; made when it is asked for first. */
export function single<T>(name: string, make: () => T): T {
  kept.ovrel ??= new Map();
  if (!kept.ovrel.has(name)) kept.ovrel.set(name, make());
  return kept.ovrel.get(name) as T;
}

/** Takes it away, if it is there: the next one who asks makes another. */
export function forget(name: string): unknown {
  const known = kept.ovrel?.get(name);
  kept.ovrel?.delete(name);
  return known;
}
