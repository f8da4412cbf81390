/**
 * An Ovrel as one file: a ZIP, not compressed again, with `database.dump` (pg_dump, custom format), `manifest.jsonl`
 * (a line for each version: file, number, SHA-256, size) and `about.json` (what made it, counts, SHA-256 of the other
 * two).
 */
import { spawn } from 'node:child_process';
import { createHash, randomUUID, type Hash } from 'node:crypto';
import { createWriteStream, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
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
      const damaged = await damagedOf(target.url, linesOf(client));
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
      if (damaged.length > 0)
        throw new Stop(`${sayDamaged(damaged)}\nRestore them from an earlier backup.`, DAMAGE_FOUND);
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
  for await (const line of linesOf(client)) yield Buffer.from(`${JSON.stringify(line)}\n`);
}

/** Every version, in the order in which they were made, as the client's transaction sees them. */
async function* linesOf(client: pg.Client): AsyncGenerator<ManifestLine> {
  await client.query(`
    declare line cursor for
    select v.id as version, p.name as project, f.name as file, v.number, encode(c.hash, 'hex') as sha256, c.size::float8 as size
    from version v join content c on c.store_id = v.store_id and c.id = v.content_id join file f on f.id = v.file_id join project p on p.id = f.project_id
    order by v.made_at, v.id`);
  for (;;) {
    const { rows } = await client.query<ManifestLine>('fetch 1000 from line');
    if (rows.length === 0) break;
    yield* rows;
  }
  await client.query('close line');
}

/** The lines of a backup's manifest. */
async function* linesIn(parts: Parts): AsyncGenerator<ManifestLine> {
  const text = createInterface({ input: await parts.stream('manifest.jsonl'), crlfDelay: Infinity });
  for await (const line of text) if (line) yield JSON.parse(line) as ManifestLine;
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

/**
 * Looks at the file's own hashes, and then at every version in it, in a database that is made for that and taken away.
 */
export async function verify(file: string): Promise<void> {
  const parts = await openParts(file);
  const folder = join(tmpdir(), `ovrel-verify-${randomUUID()}`);
  try {
    await checkParts(file, parts);
    const cluster = await startCluster(folder);
    try {
      await ensureDatabase(cluster.url('postgres'), 'ovrel');
      const url = cluster.url('ovrel');
      await emptyDatabase(url);
      await pourIn(url, await parts.stream('database.dump'));
      await migrate(url);
      const damaged = await damagedOf(url, linesIn(parts));
      if (damaged.length > 0) throw new Stop(`${file}: ${sayDamaged(damaged)}`, DAMAGE_FOUND);
    } finally {
      cluster.stop();
    }
    console.log(
      `${file} is whole: ${parts.about.versions} versions (${sayBytes(parts.about.bytes)}), made ${parts.about.made}. Every one was read.`,
    );
  } finally {
    parts.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What is whole is restored, and stays; what is not is named. */
export async function restore(file: string): Promise<void> {
  const parts = await openParts(file);
  try {
    await checkParts(file, parts);
    const target = await openDatabase(true);
    try {
      if (target.running) throw new Stop('Ovrel is running. Stop it first, then restore.');
      await refuseFull(target.url);
      await emptyDatabase(target.url);
      await pourIn(target.url, await parts.stream('database.dump')).catch(async (error: unknown) => {
        await emptyDatabase(target.url);
        throw error;
      });
      await migrate(target.url);
      const damaged = await damagedOf(target.url, linesIn(parts));
      const { versions, bytes } = parts.about;
      if (damaged.length > 0) {
        console.log(`${versions - damaged.length} of ${versions} versions were restored.`);
        throw new Stop(`${sayDamaged(damaged)}\nEverything else is restored and matches its hash.`, DAMAGE_FOUND);
      }
      console.log(
        `${versions} versions (${sayBytes(bytes)}) were restored, and every one was read back and matches its hash.`,
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

/** Exit code of what was done, but found damage. */
const DAMAGE_FOUND = 3;
/** Damaged versions that are named one by one. */
const NAMED = 20;

function sayDamaged(damaged: readonly ManifestLine[]): string {
  const names = damaged.slice(0, NAMED).map((line) => `  ${line.project}: ${line.file} v${line.number}`);
  const more = damaged.length > NAMED ? [`  and ${damaged.length - NAMED} more`] : [];
  const count = damaged.length === 1 ? 'One version is' : `${damaged.length} versions are`;
  return [`${count} damaged, and cannot be read back:`, ...names, ...more].join('\n');
}

/** Versions that are not there, or do not come back as the bytes that their hashes promise. */
async function damagedOf(url: string, lines: AsyncIterable<ManifestLine>): Promise<ManifestLine[]> {
  process.env['DATABASE_URL'] = url;
  // As the owner of the tables, whoever the application signs in as.
  delete process.env['OVREL_APP_PASSWORD'];
  const { closePools, db } = await import('../../web/src/server/db/pool.ts');
  const { readContent } = await import('../../web/src/server/store/reader.ts');
  const { closeWorkers } = await import('../../web/src/server/compute/pool.ts');
  const hashOf = async (contentId: string): Promise<string | undefined> => {
    const hash = createHash('sha256');
    try {
      for await (const bytes of readContent(contentId)) hash.update(bytes);
      return hash.digest('hex');
    } catch {
      return undefined;
    }
  };
  const known = new Map<string, string | undefined>();
  const damaged: ManifestLine[] = [];
  let done = 0;
  try {
    for await (const line of lines) {
      const { rows } = await db().query<{ content_id: string }>(
        'select content_id from version where store_id = 1 and id = $1',
        [line.version],
      );
      const id = rows[0]?.content_id;
      if (id !== undefined && !known.has(id)) known.set(id, await hashOf(id));
      if (id === undefined || known.get(id) !== line.sha256) damaged.push(line);
      done += 1;
      if (done % 1000 === 0) console.log(`${done} versions read`);
    }
    return damaged;
  } finally {
    await Promise.all([closePools(), closeWorkers()]);
  }
}
