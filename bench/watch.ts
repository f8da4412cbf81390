/** A thousand saves by programs of six manners, beside a server that fails now and then: each becomes one version. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { Api } from '../cli/src/desk/api.ts';
import { writeState } from '../cli/src/desk/folder.ts';
import { FakeServer, manners } from '../cli/src/desk/testing.ts';
import { watch } from '../cli/src/desk/watch.ts';
import { line } from './measure.ts';

const FILES_OF_A_MANNER = 10;
const ROUNDS = 17;
const QUIET = 300;
const LONGEST_ROUND = 60_000;

export async function benchWatch(): Promise<void> {
  const files = Object.entries(manners).flatMap(([name, write]) =>
    Array.from({ length: FILES_OF_A_MANNER }, (_, k) => ({ name: `${k} ${name}`, write })),
  );
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-watch-'));
  const server = new FakeServer(files.map(({ name }) => name));
  const address = await server.start();
  const ending = new AbortController();
  try {
    for (const { name } of files) writeFileSync(join(folder, name), `${name} 0`);
    writeState(folder, { address, project: { id: 'bench', name: 'Bench' }, bases: {}, hashes: {} });
    // One request in a hundred finds nobody; as many lose their answer after it was done.
    server.fate = (n) => (({ 33: 'away', 66: 'lost' }) as const)[n % 100];
    const how = { quiet: QUIET, backupEvery: undefined, once: false, signal: ending.signal };
    const running = watch(folder, new Api(address, 'token'), how, () => Promise.resolve());
    for (let round = 0; round <= ROUNDS; round++) {
      if (round > 0)
        await Promise.all(files.map(async ({ name, write }) => write(join(folder, name), `${name} ${round}`)));
      const until = Date.now() + LONGEST_ROUND;
      while (server.landed.length < files.length * (round + 1) && Date.now() < until) await setTimeout(50);
    }
    ending.abort();
    await running;
    const wanted = new Set(
      files.flatMap(({ name }) => Array.from({ length: ROUNDS + 1 }, (_, k) => `${name}|${name} ${k}`)),
    );
    const landed = server.landed.map(({ fileId, text }) => `${fileId}|${text}`);
    const half = landed.filter((one) => !wanted.has(one)).length;
    const lost = [...wanted].filter((one) => !landed.includes(one)).length;
    const twice = landed.length - new Set(landed).size;
    line(
      `a watched desk: ${files.length * ROUNDS} saves in six manners, versions made of them`,
      String(landed.length - files.length),
      `lost ${lost}, half ${half}, twice ${twice} (goal 0, 0, 0); ${files.length} more as they were at the beginning`,
    );
  } finally {
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
