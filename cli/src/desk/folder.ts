/** The folder of a desk: what lies in it, and what Ovrel remembers about it. */
import { createHash } from 'node:crypto';
import {
  createReadStream,
  existsSync,
  lstatSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { unwritable } from '@ovrel/core/desk-paths';

const STATE = '.ovrel-desk.json';
const NOTES = '.ovrel-sent.json';

export interface Base {
  readonly fileId: string;
  readonly versionId: string;
  readonly number: number;
  readonly sha256: string;
}

export interface State {
  readonly address: string;
  readonly project: { readonly id: string; readonly name: string };
  /** By path: the version that the file here was taken from. */
  readonly bases: Record<string, Base>;
  /** By path: hashes of contents that were looked at, with size and time of change. */
  readonly hashes: Record<string, { readonly size: number; readonly at: number; readonly sha256: string }>;
}

export class NoDesk extends Error {}

/** The nearest folder from `start` upwards that is a desk. */
export function deskFolder(start: string): string {
  for (let folder = start; ; folder = dirname(folder)) {
    if (existsSync(join(folder, STATE))) return folder;
    if (dirname(folder) === folder)
      throw new NoDesk('This folder is not a desk yet. Say "ovrel desk connect ADDRESS PROJECT" in it first.');
  }
}

export function readState(folder: string): State {
  try {
    return JSON.parse(readFileSync(join(folder, STATE), 'utf8')) as State;
  } catch {
    throw new NoDesk(
      `${join(folder, STATE)} cannot be read. Remove it and connect the folder again; your files stay as they are.`,
    );
  }
}

export function writeState(folder: string, state: State): void {
  const part = join(folder, `${STATE}.part`);
  writeFileSync(part, JSON.stringify(state));
  renameSync(part, join(folder, STATE));
}

/** Paths below the folder, with slashes; hidden files and those that are being written are passed over. */
export function* filesIn(folder: string, below = ''): Generator<string> {
  for (const entry of readdirSync(join(folder, below), { withFileTypes: true }).sort((a, b) =>
    a.name.localeCompare(b.name),
  )) {
    const path = below ? `${below}/${entry.name}` : entry.name;
    if (entry.name.startsWith('.') || entry.name.startsWith('~$') || entry.name.endsWith('.ovrel-part')) continue;
    if (entry.isDirectory()) yield* filesIn(folder, path);
    else if (entry.isFile()) yield path;
  }
}

export async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path, { highWaterMark: 1024 * 1024 })) hash.update(piece as Buffer);
  return hash.digest('hex');
}

/**
 * The hash of a file here; looked at again only where size or time of change differ. A file just written may change
 * within the clock's grain, so its hash is not kept.
 */
export async function localHash(folder: string, path: string, state: State): Promise<string> {
  const full = join(folder, path);
  const known = state.hashes[path];
  for (;;) {
    const before = statSync(full);
    if (known?.size === before.size && known.at === before.mtimeMs) return known.sha256;
    const sha256 = await hashOf(full);
    const after = statSync(full);
    if (after.size !== before.size || after.mtimeMs !== before.mtimeMs) continue;
    if (Date.now() - after.mtimeMs > 2000) state.hashes[path] = { size: after.size, at: after.mtimeMs, sha256 };
    else Reflect.deleteProperty(state.hashes, path);
    return sha256;
  }
}

/**
 * Why a desk does not write to a path, in words that follow “because”; undefined where it may. What lies there that
 * it does not know stays.
 */
export function inTheWay(folder: string, path: string): string | undefined {
  const why = unwritable(path);
  if (why) return why;
  const parts = path.split('/');
  for (const [k] of parts.entries()) {
    const here = parts.slice(0, k + 1).join('/');
    const stat = lstatSync(join(folder, here), { throwIfNoEntry: false });
    if (!stat) return undefined;
    const last = k === parts.length - 1;
    if (stat.isSymbolicLink()) return `${here} is a link, which may lead out of the desk`;
    if (last && !stat.isFile()) return `${here} is ${stat.isDirectory() ? 'a folder' : 'no plain file'} here`;
    if (!last && !stat.isDirectory()) return `${here} is a file here, and a folder there`;
  }
  return undefined;
}

/** Where a desk notes which contents are on their way, in parts. */
export const notesOf = (folder: string): string => join(folder, NOTES);
