/** Bytes arrive: kept aside, with no connection to the database held, until all of them are here. */
import { detect, HEAD_BYTES } from '@ovrel/core';
import { config } from '../config.ts';
import type { Client } from '../db/pool.ts';
import { cleanFileName } from '../names.ts';
import { Problem } from '../problem.ts';
import { Spool } from '../store/spool.ts';
import { ContentWriter, type StoredContent } from '../store/writer.ts';

export interface Incoming {
  /** As the sender calls the file. */
  readonly name: string;
  /** The media type that its sender gave it. */
  readonly type?: string;
  readonly bytes: AsyncIterable<Uint8Array>;
}

/** All bytes of a file that is to become a version, and what they are. */
export interface Arrived {
  readonly uploadName: string;
  /** What was made of a name that cannot be kept as it was. */
  readonly hint: string | undefined;
  readonly format: string | null;
  readonly spool: Spool;
}

/** Takes the bytes in. `accept` is told what they are as soon as that is known, and may refuse. */
export async function receive(incoming: Incoming, accept: (format: string | null) => void): Promise<Arrived> {
  const { name: uploadName, hint } = cleanFileName(incoming.name);
  const spool = new Spool();
  const judge = new Judge(incoming.name, accept);
  try {
    for await (const bytes of incoming.bytes) {
      if (spool.size + bytes.length > config.uploadLimit) throw tooLarge(config.uploadLimit);
      judge.see(bytes);
      await spool.write(bytes);
    }
    return { uploadName, hint, format: judge.settle(), spool };
  } catch (error) {
    await spool.end();
    throw error;
  }
}

/** Tells what a file is by its head, once. */
class Judge {
  private readonly name: string;
  private readonly accept: (format: string | null) => void;
  private head: Uint8Array[] = [];
  private headBytes = 0;
  private format: string | null | undefined;

  constructor(name: string, accept: (format: string | null) => void) {
    this.name = name;
    this.accept = accept;
  }

  see(bytes: Uint8Array): void {
    if (this.format !== undefined) return;
    this.head.push(bytes);
    this.headBytes += bytes.length;
    if (this.headBytes >= HEAD_BYTES) this.settle();
  }

  settle(): string | null {
    if (this.format !== undefined) return this.format;
    const format = detect(Buffer.concat(this.head), this.name)?.id ?? null;
    this.format = format;
    this.head = [];
    this.accept(format);
    return format;
  }
}

/** Stores what has arrived as a content, within the transaction that makes versions of it. */
export async function storeArrived(client: Client, { format, spool }: Arrived): Promise<StoredContent> {
  const writer = new ContentWriter(client);
  for await (const bytes of spool.read()) await writer.write(bytes);
  return writer.finish(format);
}

export const tooLarge = (limit: number): Problem =>
  new Problem(
    413,
    'too-large',
    `The file is larger than ${sayBytes(limit)}, the largest that can be checked in here. An administrator can raise the limit (OVREL_UPLOAD_LIMIT).`,
  );

function sayBytes(n: number): string {
  if (n >= 1024 ** 3) return `${Math.round((n / 1024 ** 3) * 10) / 10} GB`;
  return n >= 1024 ** 2 ? `${Math.round(n / 1024 ** 2)} MB` : `${n.toLocaleString('en')} bytes`;
}
