/**
 * One look at a watched folder. Files that are still being written are waited for; links are not followed; what is as
 * it was makes no version; numbered backups become versions of the file that they are of.
 */
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readdir, realpath, stat } from 'node:fs/promises';
import { dirname, join, relative, sep } from 'node:path';
import { inOrderOfBackups, isSameGlimpse, isScratch, numberedBackup } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import type { Looked, Watched, WatchedProblem } from '../../contract/watched.ts';
import { config } from '../config.ts';
import { db } from '../db/pool.ts';
import { personRow } from '../people/access-rows.ts';
import { Problem } from '../problem.ts';
import { fileCalled } from '../projects/rows.ts';
import { makeFolder } from '../projects/service.ts';
import { save } from '../saving/service.ts';
import { makeFile } from '../versions/checkin.ts';
import {
  folderCalled,
  hasContent,
  lookedAt,
  putSeen,
  seenBefore,
  watchedRow,
  type Seen,
  type WatchedRow,
} from './rows.ts';

/** A file that has not changed for so long counts as written, in milliseconds. */
const QUIET = 5_000;
/** A folder with more is not looked at, and neither is what lies deeper. */
const MOST_FILES = 100_000;
const DEEPEST = 20;
/** Files that could not be taken, of which is told why. */
const MOST_PROBLEMS = 20;

const NOTHING: Looked = { versions: 0, files: 0, waiting: 0, problem: null };

/** The folder cannot be looked at as a whole. */
class Unseen extends Error {
  readonly problem: WatchedProblem;

  constructor(problem: WatchedProblem) {
    super(problem);
    this.problem = problem;
  }
}

export type Tell = (doing: string, done: number, total: number | null) => Promise<void>;

/** Of one folder, one look at a time: two would take the same files, in any order. */
const LOOKING = 0x0772_e102;

export async function lookAtWatched(id: string, tell: Tell = async () => undefined): Promise<Looked> {
  const client = await db().connect();
  try {
    await client.query('select pg_advisory_lock($1, hashtext($2))', [LOOKING, id]);
    try {
      return await lookAlone(id, tell);
    } finally {
      await client.query('select pg_advisory_unlock($1, hashtext($2))', [LOOKING, id]);
    }
  } finally {
    client.release();
  }
}

async function lookAlone(id: string, tell: Tell): Promise<Looked> {
  const row = await watchedRow(db(), id);
  if (!row) return NOTHING;
  try {
    const by = await personRow(db(), row.by_id);
    if (!by) throw new Unseen('not-allowed');
    const { looked, problems } = await new Look(row, by, tell).run();
    await lookedAt(db(), id, null, problems);
    return looked;
  } catch (error) {
    if (!(error instanceof Unseen)) throw error;
    await lookedAt(db(), id, error.problem, []);
    return { ...NOTHING, problem: error.problem };
  }
}

/** The folder as the file system has it: beneath the root, also behind links. */
export async function folderOf(path: string): Promise<string> {
  const root = config.watchedRoot;
  if (root === undefined) throw new Unseen('not-allowed');
  const [within, base] = await Promise.all([realpath(join(root, path)), realpath(root)]).catch(() => {
    throw new Unseen('gone');
  });
  const way = relative(base, within);
  if (way === '..' || way.startsWith(`..${sep}`)) throw new Unseen('outside');
  return within;
}

class Look {
  private readonly row: WatchedRow;
  private readonly by: Person;
  private readonly tell: Tell;
  private readonly problems: Watched['problems'] = [];
  private versions = 0;
  private files = 0;

  constructor(row: WatchedRow, by: Person, tell: Tell) {
    this.row = row;
    this.by = by;
    this.tell = tell;
  }

  async run(): Promise<{ looked: Looked; problems: Watched['problems'] }> {
    const folder = await folderOf(this.row.path);
    const before = new Map((await seenBefore(db(), this.row.id)).map((seen) => [seen.path, seen]));
    const now = await filesIn(folder);
    const settled: Seen[] = [];
    const waiting: Seen[] = [];
    for (const seen of now.values()) {
      const known = before.get(seen.path);
      const isSame = known !== undefined && isSameGlimpse(known, seen);
      if (isSame && known.taken) continue;
      // A clock that is ahead settles by the second look.
      const isQuiet = isSame || Date.now() - seen.at >= QUIET;
      (isQuiet && seen.size > 0 ? settled : waiting).push(seen);
    }
    const inOrder = inOrderOfBackups(settled.map(({ path }) => path));
    for (const [done, path] of inOrder.entries()) {
      await this.tell('taking what is new', done, inOrder.length);
      const seen = now.get(path);
      if (seen) await this.take(folder, seen);
    }
    await putSeen(db(), this.row.id, waiting);
    const looked = { versions: this.versions, files: this.files, waiting: waiting.length, problem: null };
    return { looked, problems: this.problems };
  }

  private async take(folder: string, seen: Seen): Promise<void> {
    const { path } = seen;
    try {
      const sha256 = await hashOf(join(folder, path));
      await this.land(folder, path, sha256);
      // What was written meanwhile is taken at the next look.
      const after = await glimpse(folder, path);
      const isStill = after !== undefined && isSameGlimpse(after, seen);
      await putSeen(db(), this.row.id, [{ ...seen, taken: isStill }]);
    } catch (error) {
      const isTold = error instanceof Problem;
      if (this.problems.length < MOST_PROBLEMS)
        this.problems.push({ path, why: isTold ? error.message : 'It could not be read just now.' });
      // What was refused is not tried again before it changes; what could not be read is.
      await putSeen(db(), this.row.id, [{ ...seen, taken: isTold }]);
    }
  }

  private async land(folder: string, path: string, sha256: string): Promise<void> {
    const target = numberedBackup(path)?.of ?? path;
    const name = target.split('/').at(-1) ?? target;
    const folderId = await this.folderFor(dirname(target));
    const incoming = { name, bytes: createReadStream(join(folder, path)) as AsyncIterable<Uint8Array> };
    const known = await fileCalled(db(), this.row.project_id, folderId, name);
    if (!known) {
      await makeFile(this.by, this.row.project_id, folderId, name, incoming, { note: '', kind: 'backup' });
      this.files += 1;
      this.versions += 1;
      return;
    }
    if (await hasContent(db(), known.id, sha256)) return;
    const options = { key: undefined, base: undefined, title: undefined, kind: 'backup' as const };
    const { made } = await save(this.by, known.id, incoming, options);
    if (made) this.versions += 1;
  }

  /** The folder of the project for a folder beneath the watched one; made where it is not there. */
  private async folderFor(path: string): Promise<string | null> {
    let at = this.row.folder_id;
    for (const name of path === '.' ? [] : path.split('/')) {
      const known = await folderCalled(db(), this.row.project_id, at, name);
      at = known?.id ?? (await makeFolder(this.by, this.row.project_id, at, name)).id;
    }
    return at;
  }
}

/** Regular files beneath a folder by their paths, with slashes; what programs write and take away again is left out. */
async function filesIn(folder: string): Promise<Map<string, Seen>> {
  const found = new Map<string, Seen>();
  const walk = async (at: string, depth: number): Promise<void> => {
    const entries = await readdir(join(folder, at), { withFileTypes: true }).catch((error: unknown) => {
      if (at === '') throw error;
      return [];
    });
    for (const entry of entries) {
      const path = at === '' ? entry.name : `${at}/${entry.name}`;
      if (isScratch(path)) continue;
      if (entry.isDirectory() && depth < DEEPEST) await walk(path, depth + 1);
      if (!entry.isFile()) continue;
      if (found.size >= MOST_FILES) throw new Unseen('too-many');
      const seen = await glimpse(folder, path);
      if (seen) found.set(path, seen);
    }
  };
  await walk('', 0).catch((error: unknown) => {
    throw error instanceof Unseen ? error : new Unseen('gone');
  });
  return found;
}

async function glimpse(folder: string, path: string): Promise<Seen | undefined> {
  const found = await stat(join(folder, path)).catch(() => undefined);
  return found && { path, size: found.size, at: found.mtimeMs, inode: found.ino, taken: false };
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer);
  return hash.digest('hex');
}
