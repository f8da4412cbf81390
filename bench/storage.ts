/**
 * Bytes stored for thirty versions against a chain of `zstd --patch-from`, and what reading old and new versions
 * takes.
 */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Person } from '../web/src/contract/api.ts';
import { db, many, one } from '../web/src/server/db/pool.ts';
import { makeProject } from '../web/src/server/projects/service.ts';
import { collect } from '../web/src/server/store/collect.ts';
import { packFile } from '../web/src/server/store/pack.ts';
import { readContent } from '../web/src/server/store/reader.ts';
import { checkIn, makeFile, type Incoming } from '../web/src/server/versions/checkin.ts';
import { line, median, time } from './measure.ts';
import { allSeries, type Series } from './series.ts';

const VERSIONS = 30;

export const incoming = (name: string, bytes: Uint8Array): Incoming => ({
  name,
  bytes: (async function* () {
    for (let at = 0; at < bytes.length || at === 0; at += 65_536) yield bytes.subarray(at, at + 65_536);
  })(),
});

export async function benchPerson(): Promise<Person> {
  const person = await one<Person>(
    db(),
    `insert into person (name, email, role, password_hash) values ('Bench', 'bench-' || gen_random_uuid() || '@test.example', 'administrator', 'none') returning id, name, email, role`,
  );
  if (!person) throw new Error('no person');
  return person;
}

/** Chunks, content rows and indexes of everything that the series has added. */
const storedNow = async (): Promise<number> =>
  Number(
    (
      await one<{ n: string }>(
        db(),
        `
  select (select coalesce(sum(stored + 60), 0) from chunk) + (select coalesce(sum(octet_length(manifest) + 160), 0) from content) as n`,
      )
    )?.n,
  );

/** zstd's own deltas, each version against the one before, level 3. */
function reference(series: Series, folder: string): number {
  let total = 0;
  for (let n = 0; n < VERSIONS; n++) {
    const file = join(folder, `${n % 2}`);
    const before = join(folder, `${(n + 1) % 2}`);
    writeFileSync(file, series.version(n));
    execFileSync('zstd', [
      '-3',
      '-q',
      '-f',
      ...(n ? ['--long=27', `--patch-from=${before}`] : []),
      file,
      '-o',
      `${file}.zst`,
    ]);
    total += statSync(`${file}.zst`).size;
  }
  return total;
}

export async function benchStorage(only?: string): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-series-'));
  const by = await benchPerson();
  const project = await makeProject(by, `Series ${Date.now()}`);
  try {
    for (const series of allSeries) {
      if (only && !series.name.includes(only)) continue;
      const size = series.version(VERSIONS - 1).length;
      const chain = reference(series, folder);
      const before = await storedNow();
      const name = `${series.name.replace(/[^\w]+/g, '-')}.${series.ending}`;
      const { file } = await makeFile(by, project.id, null, undefined, incoming(name, series.version(0)), { note: '' });
      for (let n = 1; n < VERSIONS; n++) await checkIn(by, file.id, incoming(name, series.version(n)), { note: '' });
      const packing = await time(() => packFile(file.id, async () => undefined));
      await collect(undefined, 0);
      const stored = (await storedNow()) - before;
      const contents = await many<{ content_id: string; hash: Buffer }>(
        db(),
        'select v.content_id, c.hash from version v join content c on c.id = v.content_id where v.file_id = $1 order by v.number',
        [file.id],
      );
      for (const { content_id: id, hash } of contents) {
        const sum = createHash('sha256');
        for await (const piece of readContent(id)) sum.update(piece);
        if (!sum.digest().equals(hash)) throw new Error('a version did not come back');
      }
      const first = contents[0]?.content_id ?? '';
      const last = contents.at(-1)?.content_id ?? '';
      const reads = { first: [] as number[], last: [] as number[] };
      for (let round = 0; round < 7; round++) {
        reads.first.push(await time(() => drain(first)));
        reads.last.push(await time(() => drain(last)));
      }
      const goal = series.group === 'container' || series.group === 'picture' ? '≤ 0.30' : '≤ 1.15';
      line(
        `${series.name}: stored ÷ zstd chain`,
        (stored / chain).toFixed(2),
        `goal ${goal}; in versions ${(stored / size).toFixed(2)} against ${(chain / size).toFixed(2)}; ${(size / 1e6).toFixed(2)} MB; packing ${Math.round(packing / VERSIONS)} ms a version; reading v30 ÷ v1 ${(median(reads.last) / median(reads.first)).toFixed(2)} (${median(reads.last).toFixed(0)} ms)`,
      );
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export async function drain(contentId: string): Promise<number> {
  let size = 0;
  for await (const piece of readContent(contentId)) size += piece.length;
  return size;
}
