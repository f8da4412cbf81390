/** Keeping one version: with a title it is a keeper, which no rule removes. */
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { sayDate, sayMoment } from '../words.ts';

/** Gives the title that it has now; another can be written over it. */
export async function keep(versionId: string, now = Date.now()): Promise<string> {
  const title = `Kept on ${sayDate(now)}`;
  await call(api.versions.title, { versionId, body: { title, starting: false } });
  return title;
}

/** The moment, or the next sweep for what is due already. */
export const sayGoing = (goes: string, now = Date.now()): string =>
  Date.parse(goes) <= now ? 'with the next sweep' : sayMoment(goes);
