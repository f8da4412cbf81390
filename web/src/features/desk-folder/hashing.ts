/** SHA-256 of files, a piece at a time, with what is known already passed over. Runs in a worker; tested by itself. */
import { sha256 } from '@noble/hashes/sha2.js';
import type { Hashed } from './memory.ts';

/** Smaller files are hashed by the browser itself, in one piece. */
const WHOLE = 32 * 1024 * 1024;
/** A file that changed this recently may change again without a new time; its hash is not remembered. Milliseconds. */
const FRESH = 3000;
/** Files that are looked at side by side: most of the time is spent waiting for the browser. */
const AT_ONCE = 12;

const hex = (bytes: Uint8Array): string => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');

export async function hashOf(file: Blob): Promise<string> {
  if (file.size <= WHOLE) return hex(new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer())));
  const hash = sha256.create();
  const reader = file.stream().getReader();
  for (let next = await reader.read(); !next.done; next = await reader.read()) hash.update(next.value);
  return hex(hash.digest());
}

export interface SeenFile {
  readonly path: string;
  readonly size: number;
  readonly sha256: string;
}

export interface Looked {
  readonly files: readonly SeenFile[];
  readonly hashes: Readonly<Record<string, Hashed>>;
  /** Files that could not be read. */
  readonly unread: readonly string[];
}

interface Readable {
  readonly path: string;
  readonly file: () => Promise<File>;
}

/**
 * Hashes every file, unless size and time of change are those of the last look. A file that changes meanwhile is
 * looked at again, up to three times.
 */
export async function lookAtFiles(
  files: readonly Readable[],
  known: Readonly<Record<string, Hashed>>,
  tell: (done: number, total: number, path: string) => void,
  now: () => number = Date.now,
): Promise<Looked> {
  const found: (Hashed | undefined)[] = [];
  let next = 0;
  let done = 0;
  const work = async (): Promise<void> => {
    for (let i = next++; i < files.length; i = next++) {
      const { path, file } = files[i] as Readable;
      found[i] = await steadyHash(file, known[path]);
      tell(++done, files.length, path);
    }
  };
  tell(0, files.length, '');
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  const seen: SeenFile[] = [];
  const unread: string[] = [];
  const hashes: Record<string, Hashed> = {};
  files.forEach(({ path }, i) => {
    const hash = found[i];
    if (!hash) unread.push(path);
    else seen.push({ path, size: hash.size, sha256: hash.sha256 });
    if (hash && now() - hash.modified > FRESH) hashes[path] = hash;
  });
  return { files: seen, hashes, unread };
}

async function steadyHash(open: () => Promise<File>, known: Hashed | undefined): Promise<Hashed | undefined> {
  for (let attempt = 0; attempt < 3; attempt++) {
    try {
      const file = await open();
      if (known?.size === file.size && known.modified === file.lastModified) return known;
      const hash = await hashOf(file);
      const after = await open();
      if (after.size === file.size && after.lastModified === file.lastModified)
        return { size: file.size, modified: file.lastModified, sha256: hash };
    } catch {
      // It is being written, or went away: look again.
    }
  }
  return undefined;
}
