import { zstdCompressSync, zstdDecompressSync } from 'node:zlib';
import { drawnFirst, drawnNext, kindOf, open, type Content, type DrawnBy } from '@ovrel/core';
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
  const content = await opened(source);
  if (!content.design) return undefined;
  const earlier = before && (await opened(before.source));
  const step = earlier && stepBetween(earlier, content);
  if (!before || !earlier?.design || !step) return packed(drawnFirst(version, content.design));
  const other = second && (await opened(second.source));
  const otherStep = other && stepBetween(other, content);
  return packed(
    drawnNext(
      { version: before.version, drawn: unpacked(before.drawn), design: earlier.design },
      step,
      { version, design: content.design },
      second && otherStep ? { drawn: unpacked(second.drawn), step: otherStep } : undefined,
    ),
  );
};

const opened = ({ bytes, name }: Source): Promise<Content> => open(bytes, name);

/** Undefined where one cannot be followed into the other. */
function stepBetween(a: Content, b: Content): ReturnType<NonNullable<ReturnType<typeof kindOf>['step']>> | undefined {
  const [kind] = b.kinds;
  if (a.kinds[0] !== kind || !a.design || !b.design) return undefined;
  if (kind !== 'drawing' && kind !== 'text') return undefined;
  return kindOf(kind).step?.(a.design, b.design, {});
}

const packed = (drawn: DrawnBy): Uint8Array => zstdCompressSync(JSON.stringify(drawn));

/** What `attribute` gave. */
export const unpacked = (value: Uint8Array): DrawnBy =>
  JSON.parse(zstdDecompressSync(value).toString('utf8')) as DrawnBy;
