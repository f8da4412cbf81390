/** Reading the first, an early and the last version of a file with very many. `npm run bench reading [versions]`. */
import { db, many, one } from '../web/src/server/db/pool.ts';
import { makeProject } from '../web/src/server/projects/service.ts';
import { packFile } from '../web/src/server/store/pack.ts';
import { checkIn, makeFile } from '../web/src/server/versions/checkin.ts';
import { line, median } from './measure.ts';
import { benchPerson, drain, incoming } from './storage.ts';

/** Reading version 1, 30 and the last of a drawing with very many versions, each a little changed. */
export async function benchReading(count: number): Promise<void> {
  const by = await benchPerson();
  const project = await makeProject(by, `Reading ${Date.now()}`);
  const lines = Array.from(
    { length: 3_000 },
    (_, i) => `#${i}=POINT(${(i * 7919) % 9973}.25,${(i * 104_729) % 99_991}.5);`,
  );
  const bytes = (n: number): Uint8Array => {
    for (let k = 0; k < 20; k++) lines[(n * 977 + k * 131) % lines.length] = `#${n}=CHANGED(${k},${n * k}.5);`;
    return new TextEncoder().encode(lines.join('\n'));
  };
  const { file } = await makeFile(by, project.id, null, undefined, incoming('read.txt', bytes(0)), { note: '' });
  for (let n = 1; n < count; n++) {
    await checkIn(by, file.id, incoming('read.txt', bytes(n)), { note: '' });
    if (n % 200 === 199) await packFile(file.id, async () => undefined);
    if (n % 1000 === 999) console.log(`${n + 1} of ${count} versions made`);
  }
  await packFile(file.id, async () => undefined);
  const ids = await many<{ content_id: string; number: number; depth: number }>(
    db(),
    'select v.content_id, v.number, c.depth from version v join content c on c.id = v.content_id where v.file_id = $1 and v.number = any($2::int[]) order by v.number',
    [file.id, [1, 30, count]],
  );
  const times = new Map(ids.map((r) => [r.number, [] as number[]]));
  for (let round = 0; round < 9; round++) {
    for (const { content_id: id, number } of ids) {
      const start = performance.now();
      await drain(id);
      times.get(number)?.push(performance.now() - start);
    }
  }
  const [first, thirtieth, last] = ids.map((r) => median(times.get(r.number) ?? [])) as [number, number, number];
  const stored = await one<{ n: string }>(
    db(),
    'select sum(chain_bytes) as n from content c join version v on v.content_id = c.id where v.file_id = $1 and v.number = $2',
    [file.id, count],
  );
  line(
    `reading v30 ÷ v1 and v${count} ÷ v1, text of 0.1 MB`,
    `${(thirtieth / first).toFixed(2)} / ${(last / first).toFixed(2)}`,
    `goal ≤ 1.5; ${first.toFixed(0)}, ${thirtieth.toFixed(0)}, ${last.toFixed(0)} ms; deltas to the root ${ids.map((r) => r.depth).join(', ')}; their bytes ${stored?.n ?? 0}`,
  );
}
