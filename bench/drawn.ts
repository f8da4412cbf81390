/** Who drew what in a drawing of 5,000 parts with 200 versions: what it takes to find out, and to answer when known. */
import { db } from '../web/src/server/db/pool.ts';
import { drawnBy, findDrawn } from '../web/src/server/drawn/service.ts';
import { makeProject } from '../web/src/server/projects/service.ts';
import { checkIn, makeFile } from '../web/src/server/versions/checkin.ts';
import { line, median } from './measure.ts';
import { benchPerson, incoming } from './storage.ts';

const PARTS = 5000;
const ROUNDS = 9;
/** Parts that each version moves. */
const TOUCHED = 25;

export async function benchDrawn(versions = 200): Promise<void> {
  const by = await benchPerson();
  const project = await makeProject(by, `Drawn ${Date.now()}`);
  const moved = new Array<number>(PARTS).fill(0);
  const drawing = (): Uint8Array => {
    const parts = moved.map(
      (by_, k) => `<rect id="p${k}" x="${20 * (k % 100) + by_}" y="${20 * Math.floor(k / 100)}" width="9" height="9"/>`,
    );
    return new TextEncoder().encode(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 2000 1000">${parts.join('\n')}</svg>`,
    );
  };
  const { file } = await makeFile(by, project.id, null, 'deck.svg', incoming('deck.svg', drawing()), { note: '' });
  let newest = file.newest.id;
  for (let version = 1; version < versions; version++) {
    for (let k = 0; k < TOUCHED; k++) moved[(version * TOUCHED + k) % PARTS] = version % 7;
    newest = (await checkIn(by, file.id, incoming('deck.svg', drawing()), { note: '' })).version.id;
  }
  const begun = performance.now();
  await findDrawn(newest, async () => undefined);
  const found = (performance.now() - begun) / 1000;
  const times: number[] = [];
  for (let k = 0; k < ROUNDS; k++) {
    const at = performance.now();
    const { parts, ready } = await drawnBy(by, newest);
    if (!ready || parts.length !== PARTS) throw new Error('it is not known who drew what');
    times.push(performance.now() - at);
  }
  const { rows } = await db().query<{ bytes: string }>('select pg_total_relation_size($1::regclass) as bytes', [
    'drawn_by',
  ]);
  line(
    `who drew what: ${versions} versions of ${PARTS.toLocaleString('en')} parts, answered when known`,
    `${Math.round(median(times))} ms`,
    `goal < 2,000 ms; found out in ${found.toFixed(0)} s, ${((1000 * found) / versions).toFixed(0)} ms a version; kept in ${(Number(rows[0]?.bytes) / 1e6).toFixed(1)} MB`,
  );
}
