/**
 * An Ovrel as one file: a ZIP, not compressed again, with `database.dump` (pg_dump, custom format), `manifest.jsonl` (a line for each
 * version: file, number, SHA-256, size) and `about.json` (what made it, counts, SHA-256 of the other two).
 */
import { spawn } from 'node:child_process';
import { createHash, type Hash } from 'node:crypto';
import { createWriteStream, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import yauzl from 'yauzl';
import { ZipFile } from 'yazl';
import { dataFolder, runningCluster, startCluster } from './cluster.ts';
import { ensureDatabase, migrate } from './database.ts';
import { postgresPrograms } from './prepare.mjs';
import { Stop } from './stop.ts';

const FORM = 1;

interface About {
  readonly form: number;
  readonly made: string;
  readonly versions: number;
  readonly contents: number;
  readonly bytes: number;
  readonly dump: string;
  readonly manifest: string;
}

interface ManifestLine {
  readonly version: string;
  readonly project: string;
  readonly file: string;
  readonly number: number;
  readonly sha256: string;
  readonly size: number;
}

export interface Target {
  readonly url: string;
  readonly running: boolean;
  readonly stop: () => void;
}

/** The database of this Ovrel: given, running, or started for the moment. */
export async function openDatabase(make: boolean): Promise<Target> {
  const given = process.env['DATABASE_URL'];
  if (given) return { url: given, running: false, stop: () => undefined };
  const folder = dataFolder();
  const running = runningCluster(folder);
  if (!running && !make && !existsSync(join(folder, 'cluster.json')))
    throw new Stop(`There is no Ovrel in ${folder}. Start one with "npm start" first, or set OVREL_DATA.`);
  const cluster = running ?? (await startCluster(folder));
  await ensureDatabase(cluster.url('postgres'), 'ovrel');
  return { url: cluster.url('ovrel'), running: Boolean(running), stop: cluster.stop };
}

export async function connected<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

const sayBytes = (n: number): string => {
  if (n < 1e6) return `${Math.ceil(n / 1e3)} kB`;
  if (n < 1e9) return `${(n / 1e6).toFixed(1)} MB`;
  return `${(n / 1e9).toFixed(2)} GB`;
};

/** A stream that passes everything on and adds it to a hash. */
const hashing = (hash: Hash): Transform =>
  new Transform({
    transform(piece: Buffer, _, done) {
      hash.update(piece);
      done(null, piece);
    },
  });

export async function backup(file: string): Promise<void> {
  if (existsSync(file)) throw new Stop(`${file} is there already. Choose another name; nothing was overwritten.`);
  const target = await openDatabase(false);
  const part = `${file}.part`;
  try {
    await connected(target.url, async (client) => {
      // One moment for the dump and the manifest, however much is checked in meanwhile.
      await client.query('begin isolation level repeatable read read only');
      const snapshot = (await client.query<{ id: string }>('select pg_export_snapshot() as id')).rows[0]?.id ?? '';
      const counts = (
        await client.query<{ versions: number; contents: number; bytes: string }>(`
        select (select count(*)::int from version) as versions, (select count(*)::int from content) as contents, (select coalesce(sum(c.size), 0) from version v join content c on c.store_id = v.store_id and c.id = v.content_id) as bytes`)
      ).rows[0];
      const dumpHash = createHash('sha256');
      const manifestHash = createHash('sha256');
      const dump = spawn(
        join(postgresPrograms() ?? '', 'pg_dump'),
        [
          '--format=custom',
          '--compress=1',
          '--no-owner',
          '--no-privileges',
          `--snapshot=${snapshot}`,
          `--dbname=${target.url}`,
        ],
        { stdio: ['ignore', 'pipe', 'pipe'] },
      );
      let complaint = '';
      dump.stderr.on('data', (piece: Buffer) => {
        complaint += piece.toString();
      });
      const ended = new Promise<number | null>((done) => dump.once('close', done));
      const zip = new ZipFile();
      zip.addReadStreamLazy('database.dump', { compress: false, forceZip64Format: true }, (ready) =>
        ready(null, dump.stdout.pipe(hashing(dumpHash))),
      );
      zip.addReadStreamLazy('manifest.jsonl', { compress: true }, (ready) =>
        ready(null, Readable.from(manifestOf(client)).pipe(hashing(manifestHash))),
      );
      zip.addReadStreamLazy('about.json', { compress: false }, (ready) => {
        const about: About = {
          form: FORM,
          made: new Date().toISOString(),
          versions: counts?.versions ?? 0,
          contents: counts?.contents ?? 0,
          bytes: Number(counts?.bytes ?? 0),
          dump: dumpHash.digest('hex'),
          manifest: manifestHash.digest('hex'),
        };
        ready(null, Readable.from([Buffer.from(JSON.stringify(about, null, 2))]));
      });
      zip.end();
      await pipeline(zip.outputStream, createWriteStream(part, { mode: 0o600 }));
      if ((await ended) !== 0) throw new Stop(`PostgreSQL could not write everything out: ${complaint.trim()}`);
      renameSync(part, file);
      console.log(
        `${counts?.versions} versions (${sayBytes(Number(counts?.bytes))}) are in ${file}, which has ${sayBytes(statSync(file).size)}.`,
      );
    });
  } catch (error) {
    if ((error as { code?: string }).code === 'ENOENT' || (error as { code?: string }).code === 'EACCES')
      throw new Stop(`${file} can't be written. Choose a folder that exists and that you may write to.`);
    throw error;
  } finally {
    rmSync(part, { force: true });
    target.stop();
  }
}

async function* manifestOf(client: pg.Client): AsyncGenerator<Buffer> {
  await client.query(`
    declare line cursor for
    select v.id as version, p.name as project, f.name as file, v.number, encode(c.hash, 'hex') as sha256, c.size::float8 as size
    from version v join content c on c.store_id = v.store_id and c.id = v.content_id join file f on f.id = v.file_id join project p on p.id = f.project_id
    order by v.made_at, v.id`);
  for (;;) {
    const { rows } = await client.query<ManifestLine>('fetch 1000 from line');
    if (!rows.length) return;
    yield Buffer.from(rows.map((row) => `${JSON.stringify(row)}\n`).join(''));
  }
}

/** An opened backup: its parts by name. */
interface Parts {
  readonly about: About;
  readonly stream: (name: string) => Promise<Readable>;
  readonly close: () => void;
}

async function openParts(file: string): Promise<Parts> {
  const no = new Stop(`${file} is not a whole backup made by ovrel-admin.`);
  if (!existsSync(file)) throw new Stop(`There is no file ${file}.`);
  const zip = await yauzl.openPromise(file, { autoClose: false }).catch(() => {
    throw no;
  });
  const entries = new Map<string, yauzl.Entry>();
  for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
  const stream = async (name: string): Promise<Readable> => {
    const entry = entries.get(name);
    if (!entry) throw no;
    return zip.openReadStreamPromise(entry);
  };
  const pieces: Buffer[] = [];
  for await (const piece of await stream('about.json')) pieces.push(piece as Buffer);
  const about = JSON.parse(Buffer.concat(pieces).toString('utf8')) as About;
  if (about.form !== FORM)
    throw new Stop(`${file} was made by another release of Ovrel (form ${about.form}); this one reads form ${FORM}.`);
  return { about, stream, close: () => zip.close() };
}

async function checkParts(file: string, { about, stream }: Parts): Promise<void> {
  for (const [name, expected] of [
    ['database.dump', about.dump],
    ['manifest.jsonl', about.manifest],
  ] as const) {
    const hash = createHash('sha256');
    try {
      for await (const piece of await stream(name)) hash.update(piece as Buffer);
    } catch {
      throw new Stop(`${file} is damaged: ${name} cannot be read to its end.`);
    }
    if (hash.digest('hex') !== expected) throw new Stop(`${file} is damaged: ${name} does not match its hash.`);
  }
}

export async function verify(file: string): Promise<void> {
  const parts = await openParts(file);
  try {
    await checkParts(file, parts);
    console.log(
      `${file} is whole: ${parts.about.versions} versions (${sayBytes(parts.about.bytes)}), made ${parts.about.made}.`,
    );
  } finally {
    parts.close();
  }
}

export async function restore(file: string): Promise<void> {
  const parts = await openParts(file);
  try {
    await checkParts(file, parts);
    const target = await openDatabase(true);
    try {
      if (target.running) throw new Stop('Ovrel is running. Stop it first, then restore.');
      await refuseFull(target.url);
      await emptyDatabase(target.url);
      try {
        await pourIn(target.url, await parts.stream('database.dump'));
        await migrate(target.url);
        await readBack(target.url, parts);
      } catch (error) {
        await emptyDatabase(target.url);
        throw error;
      }
      console.log(
        `${parts.about.versions} versions (${sayBytes(parts.about.bytes)}) were restored, and every one was read back and matches its hash.`,
      );
    } finally {
      target.stop();
    }
  } finally {
    parts.close();
  }
}

/** A backup never replaces anything. */
async function refuseFull(url: string): Promise<void> {
  await connected(url, async (client) => {
    const there = await client.query<{ full: boolean }>(`select to_regclass('person') is not null as full`);
    if (there.rows[0]?.full && (await client.query('select 1 from person limit 1')).rowCount) {
      throw new Stop(
        'This Ovrel is not empty, and a backup is only restored into an empty one. Set OVREL_DATA to a new folder (or DATABASE_URL to an empty database).',
      );
    }
    const others = await client.query(
      "select 1 from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and backend_type = 'client backend' limit 1",
    );
    if (others.rowCount) throw new Stop('Something else is using this database. Stop Ovrel first, then restore.');
  });
}

const emptyDatabase = (url: string): Promise<void> =>
  connected(url, async (client) => {
    await client.query('drop schema if exists pgboss cascade');
    await client.query('drop schema if exists public cascade');
    await client.query('create schema public');
  });

async function pourIn(url: string, dump: Readable): Promise<void> {
  const restoring = spawn(
    join(postgresPrograms() ?? '', 'pg_restore'),
    ['--no-owner', '--no-privileges', '--exit-on-error', '--clean', '--if-exists', `--dbname=${url}`],
    { stdio: ['pipe', 'ignore', 'pipe'] },
  );
  let complaint = '';
  restoring.stderr.on('data', (piece: Buffer) => {
    complaint += piece.toString();
  });
  const ended = new Promise<number | null>((done) => restoring.once('close', done));
  // If it ends early, its exit code tells more than the broken pipe.
  await pipeline(dump, restoring.stdin).catch(() => undefined);
  if ((await ended) !== 0)
    throw new Stop(`PostgreSQL could not take the backup in: ${complaint.trim().split('\n')[0]}`);
}

/** Every version of the manifest is there, and comes back with its hash. */
async function readBack(url: string, parts: Parts): Promise<void> {
  process.env['DATABASE_URL'] = url;
  const { closePools, db } = await import('../../web/src/server/db/pool.ts');
  const { readContent } = await import('../../web/src/server/store/reader.ts');
  const { closeWorkers } = await import('../../web/src/server/compute/pool.ts');
  const read = new Map<string, string>();
  try {
    let rest = '';
    let done = 0;
    for await (const piece of await parts.stream('manifest.jsonl')) {
      const lines = (rest + (piece as Buffer).toString('utf8')).split('\n');
      rest = lines.pop() ?? '';
      for (const text of lines) {
        const line = JSON.parse(text) as ManifestLine;
        const { rows } = await db().query<{ content_id: string }>(
          'select content_id from version where store_id = 1 and id = $1',
          [line.version],
        );
        const id = rows[0]?.content_id;
        if (id === undefined) throw new Stop(`v${line.number} of ${line.file} is missing after the restore.`);
        if (!read.has(id)) {
          const hash = createHash('sha256');
          for await (const bytes of readContent(id)) hash.update(bytes);
          read.set(id, hash.digest('hex'));
        }
        if (read.get(id) !== line.sha256) throw new Stop(`v${line.number} of ${line.file} came back with other bytes.`);
        if (++done % 1000 === 0) console.log(`${done} of ${parts.about.versions} versions read back`);
      }
    }
    if (done !== parts.about.versions)
      throw new Stop(`The backup names ${parts.about.versions} versions, but lists ${done}.`);
  } finally {
    await Promise.all([closePools(), closeWorkers()]);
  }
}
