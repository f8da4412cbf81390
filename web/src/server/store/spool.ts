/**
 * Bytes kept aside: few in memory, more in a file without a name, which the system takes away with the process at the
 * latest.
 */
import { randomUUID } from 'node:crypto';
import { open, unlink, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Bytes that stay in memory. */
const IN_MEMORY = 1024 * 1024;
/** Bytes that are read back at a time. */
const PIECE = 1024 * 1024;

export class Spool {
  private pieces: Uint8Array[] = [];
  private file: FileHandle | undefined;
  private bytes = 0;

  get size(): number {
    return this.bytes;
  }

  async write(bytes: Uint8Array): Promise<void> {
    this.bytes += bytes.length;
    if (!this.file && this.bytes <= IN_MEMORY) {
      this.pieces.push(bytes);
      return;
    }
    const file = await this.opened();
    for (const piece of this.pieces) await file.appendFile(piece);
    this.pieces = [];
    await file.appendFile(bytes);
  }

  /** All that was written, from the beginning. */
  async *read(): AsyncGenerator<Uint8Array> {
    if (!this.file) {
      yield* this.pieces;
      return;
    }
    for (let at = 0; at < this.bytes;) {
      const { bytesRead, buffer } = await this.file.read(Buffer.allocUnsafe(PIECE), 0, PIECE, at);
      if (bytesRead === 0) throw new Error('a file that was kept aside is shorter than what was written');
      at += bytesRead;
      yield buffer.subarray(0, bytesRead);
    }
  }

  async end(): Promise<void> {
    this.pieces = [];
    await this.file?.close();
    this.file = undefined;
  }

  private async opened(): Promise<FileHandle> {
    if (this.file) return this.file;
    const path = join(tmpdir(), `ovrel-${randomUUID()}`);
    this.file = await open(path, 'wx+', 0o600);
    await unlink(path);
    return this.file;
  }
}
