/** Copies out of a ZIP. It may come from anybody: what it holds is counted while it is read, not as it says. */
import { BlobReader, configure, ZipReader, type Entry } from '@zip.js/zip.js';
import type { FoundFile } from './found.ts';
import { baseName } from './names.ts';

// This runs in a worker of its own already.
configure({ useWebWorkers: false });

export interface ZipLimits {
  readonly files: number;
  /** Bytes of all that is in it, unpacked. */
  readonly bytes: number;
}

export class ZipProblem extends Error {}

const isWanted = ({ directory, filename }: Entry): boolean =>
  !directory && !filename.split('/').some((part) => part.startsWith('.') || part === '__MACOSX');

/** `onFile` is told how many of how many are unpacked. Rejects with a sentence where it is broken, locked or too large. */
export async function filesInZip(
  zip: Blob,
  limits: ZipLimits,
  onFile: (done: number, of: number) => void,
): Promise<FoundFile[]> {
  const reader = new ZipReader(new BlobReader(zip));
  const entries = (await reader.getEntries().catch(asProblem)).filter(isWanted);
  if (entries.length > limits.files)
    throw new ZipProblem(
      `The ZIP has ${entries.length.toLocaleString('en')} files, more than can be taken in at once.`,
    );
  const found: FoundFile[] = [];
  let size = 0;
  for (const entry of entries) {
    if (entry.encrypted) throw new ZipProblem('The ZIP is locked with a password. Unpack it, and choose the folder.');
    onFile(found.length, entries.length);
    const blob = await unpacked(entry, limits.bytes - size);
    size += blob.size;
    const { filename, lastModDate } = entry;
    found.push({ path: filename, file: new File([blob], baseName(filename), { lastModified: lastModDate.getTime() }) });
  }
  await reader.close();
  return found;
}

async function unpacked(entry: Entry, room: number): Promise<Blob> {
  if (entry.directory) return new Blob();
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let size = 0;
  const sink = new WritableStream<Uint8Array<ArrayBuffer>>({
    write: (part) => {
      size += part.length;
      if (size > room) throw tooLarge();
      parts.push(part.slice());
    },
  });
  // What went wrong first is what is told: a stream that was stopped fails once more.
  await entry.getData(sink).catch((error: unknown) => asProblem(size > room ? tooLarge() : error));
  return new Blob(parts);
}

const tooLarge = (): ZipProblem => new ZipProblem('What the ZIP holds is larger than can be taken in at once.');

function asProblem(error: unknown): never {
  if (error instanceof ZipProblem) throw error;
  throw new ZipProblem(`The ZIP cannot be read (${error instanceof Error ? error.message : String(error)}).`);
}
