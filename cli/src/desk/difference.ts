/** A file as what is new of it beside a version that the server has: most saves change little of a large file. */
import { createHash, randomUUID } from 'node:crypto';
import { readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { applyDelta, deltaFromSignature, packDelta, unpackDelta } from '@ovrel/core';

/** Smaller files are sent as they are, larger ones are not read into memory, in bytes. */
const SMALLEST = 64 * 1024;
const LARGEST = 256 * 1024 ** 2;
/** A delta that saves less than this share is not worth it. */
const WORTH = 0.7;

const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

export interface Difference {
  /** A file of its own, to be removed once it is sent. */
  readonly path: string;
  /** Of the whole file, lower-case hexadecimal. */
  readonly sha256: string;
  readonly end: () => void;
}

export const mayDiffer = (path: string): boolean => {
  const { size } = statSync(path);
  return size >= SMALLEST && size <= LARGEST;
};

/** Undefined where the file is better sent as it is. */
export function differenceOf(path: string, signature: Uint8Array): Difference | undefined {
  const bytes = readFileSync(path);
  const packed = gzipSync(packDelta(deltaFromSignature(signature, bytes)));
  if (packed.length > bytes.length * WORTH) return undefined;
  const kept = join(tmpdir(), `ovrel-delta-${randomUUID()}`);
  writeFileSync(kept, packed);
  return {
    path: kept,
    sha256: sha256Of(bytes),
    end: () => rmSync(kept, { force: true }),
  };
}

/**
 * A version, made of what is here and of what is new in it. Undefined where that does not give it: what is here is
 * another content than was thought, or the delta was damaged on its way.
 */
export function madeOf(here: Uint8Array, packed: Uint8Array, sha256: string): Uint8Array | undefined {
  try {
    const whole = applyDelta(here, unpackDelta(gunzipSync(packed, { maxOutputLength: LARGEST })));
    return sha256Of(whole) === sha256 ? whole : undefined;
  } catch {
    return undefined;
  }
}
