/**
 * What is asked several times while one page is made is looked up once. Only for pages, which show one moment: requests
 * that change something, and streams, look anew each time.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import { single } from './single.ts';

const storage = (): AsyncLocalStorage<Map<string, Promise<unknown>>> =>
  single('page', () => new AsyncLocalStorage<Map<string, Promise<unknown>>>());

/** Makes a page. */
export const asPage = <T>(make: () => T): T => storage().run(new Map(), make);

/** What `look` gives, or gave before while the same page is made. */
export function onceAPage<T>(key: string, look: () => Promise<T>): Promise<T> {
  const known = storage().getStore();
  if (!known) return look();
  const found = known.get(key) as Promise<T> | undefined;
  if (found) return found;
  const looked = look();
  known.set(key, looked);
  return looked;
}
