import { zstdCompressSync, zstdDecompressSync } from 'node:zlib';
import {
  drawnFirst,
  drawnNext,
  followed,
  open,
  orUnreadable,
  ReadError,
  stepInto,
  type DrawnBy,
  type Followed,
} from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** A version with what is known of it. */
interface Known {
  readonly source: Source;
  /** As it is kept. */
  readonly drawn: Uint8Array;
}

interface Input {
  readonly version: string;
  readonly source: Source;
  readonly before?: Known & { readonly version: string };
  /** What it has more from than from the one before. */
  readonly second?: Known;
}

/** Who drew what, as it is kept; undefined where the version has no parts. */
export const attribute: Task<Input, Uint8Array | undefined> = async ({ version, source, before, second }) => {
  const now = await opened(source);
  if (!now) return undefined;
  const earlier = before && (await opened(before.source));
  const step = earlier && (await stepInto(earlier, now));
  if (!before || !earlier || !step) return packed(drawnFirst(version, now.design));
  const other = second && (await opened(second.source));
  const otherStep = other && (await stepInto(other, now));
  const drawn = drawnNext(
    { version: before.version, drawn: unpacked(before.drawn), design: earlier.design },
    step,
    { version, design: now.design },
    second && otherStep ? { drawn: unpacked(second.drawn), step: otherStep } : undefined,
  );
  // A square is never taken out: another size of the picture is no loss of any.
  return packed(now.by === 'squares' ? { ...drawn, gone: [] } : drawn);
};

/** What cannot be read has no parts. */
async function opened({ bytes, name }: Source): Promise<Followed | undefined> {
  const found = await orUnreadable(followed(await open(bytes, name)));
  return found instanceof ReadError ? undefined : found;
}

const packed = (drawn: DrawnBy): Uint8Array => zstdCompressSync(JSON.stringify(drawn));

/** What `attribute` gave. */
export const unpacked = (value: Uint8Array): DrawnBy =>
  JSON.parse(zstdDecompressSync(value).toString('utf8')) as DrawnBy;
