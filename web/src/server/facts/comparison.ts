/** The comparison of two contents: kept by both, with its summary beside it for lists. */
import { zstdCompressSync, zstdDecompressSync } from 'node:zlib';
import { BYTES_NOTE, bytesChange, changeOutlinesSchema, ENGINE, noOutlines, type Comparison } from '@ovrel/core';
import { comparisonSchema } from '@ovrel/core/contract';
import { z } from 'zod';
import { runTask } from '../compute/pool.ts';
import { config } from '../config.ts';
import { db } from '../db/pool.ts';
import { readContent } from '../store/reader.ts';
import type { Codec } from './codec.ts';
import { computed, unlessTooHeavy, type Asking, type Fact } from './fact.ts';
import { lookAt } from './look.ts';
import { comparisonValue, deleteComparison, insertComparison, type Pair } from './rows.ts';
import type { ShelfPlace, Shelf } from './shelf.ts';
import { endingOf, isReadable, looksInto, sourceOf, type Subject } from './subject.ts';

export interface ComparedContents {
  readonly comparison: Comparison;
  readonly picture: z.infer<typeof changeOutlinesSchema>;
  /** Of pictures: the differences of their squares, in base64. */
  readonly map?: string | undefined;
}

interface Key {
  readonly a: Subject;
  readonly b: Subject;
  readonly tolerance?: number | undefined;
}

const keptSchema = z.object({
  comparison: comparisonSchema,
  picture: changeOutlinesSchema,
  map: z.string().optional(),
});

const codec: Codec<ComparedContents> = {
  encode: (value) => zstdCompressSync(JSON.stringify(value)),
  decode: (kept) => keptSchema.parse(JSON.parse(zstdDecompressSync(kept).toString('utf8'))),
};

/** Both contents stand in the place of a content's id. */
const pairAt = ({ contentId, detail }: ShelfPlace): Pair => {
  const [a = '', b = ''] = contentId.split(' ');
  return { a, b, options: detail };
};

const shelf: Shelf = {
  read: (place) => comparisonValue(db(), pairAt(place), ENGINE),
  write: (place, _fact, value) =>
    insertComparison(db(), pairAt(place), ENGINE, codec.decode(value).comparison.summary, value),
  remove: (place) => deleteComparison(db(), pairAt(place), ENGINE),
};

/** Base of the time that a comparison may take, in seconds: pages may have to be drawn and laid over one another. */
const SECONDS = 45;

const comparison: Fact<Key, ComparedContents> = {
  name: 'comparison',
  version: 1,
  placeOf({ a, b, tolerance }) {
    const within = tolerance === undefined ? '' : ` within ${tolerance}`;
    return { contentId: `${a.content_id} ${b.content_id}`, detail: `${endingOf(a)} ${endingOf(b)}${within}` };
  },
  codec,
  shelf,
  async compute({ a, b, tolerance }) {
    if (!isReadable(a, b)) return compareStreams(a, b, [tooLarge()]);
    if (!looksInto(a) || !looksInto(b)) return compareStreams(a, b, [...(await problemNotes(a, b)), BYTES_NOTE]);
    const input = { a: sourceOf(a), b: sourceOf(b), ...(tolerance === undefined ? {} : { tolerance }) };
    const { value } = await runTask('compare', input, { seconds: SECONDS });
    return codec.decode(Buffer.from(value));
  },
};

/** What differs between two contents; where it takes too long this time, their bytes, with the reason. */
export const comparedContents = (key: Key, asking?: Asking): Promise<ComparedContents> =>
  unlessTooHeavy(computed(comparison, key, asking), (error) =>
    compareStreams(key.a, key.b, [`${error.message} Only the bytes were compared.`]),
  );

const tooLarge = (): string =>
  `One of the files is larger than ${Math.round(config.readLimit / 1024 ** 2)} MB, so only the bytes were compared.`;

async function problemNotes(a: Subject, b: Subject): Promise<string[]> {
  const sides = [
    ['older', await lookAt(a)],
    ['newer', await lookAt(b)],
  ] as const;
  return sides.flatMap(([age, { problem }]) =>
    problem ? [`The ${age} file could not be read part by part. ${problem}`] : [],
  );
}

/** Byte comparison of contents of any size, a piece at a time. */
async function compareStreams(a: Subject, b: Subject, notes: string[]): Promise<ComparedContents> {
  const found = await firstDifferenceInStore(a.content_id, b.content_id);
  const changes = found
    ? [{ id: 'c1', ...bytesChange(found.offset, Number(a.size), Number(b.size), found.a, found.b) }]
    : [];
  const side = (s: Subject): Comparison['a'] => ({
    name: '',
    bytes: Number(s.size),
    format: s.format,
    level: 'bytes',
    problem: null,
    notes: [],
  });
  return {
    comparison: {
      engine: ENGINE,
      level: 'bytes',
      unit: 'byte',
      a: side(a),
      b: side(b),
      notes,
      summary: found ? 'Content differs' : 'No change',
      changes,
      causes: [],
      tolerance: 0,
      counts: { added: 0, removed: 0, changed: changes.length, moved: 0, unchanged: found ? 0 : 1 },
    },
    picture: noOutlines,
  };
}

interface Difference {
  readonly offset: number;
  /** The byte of each there; undefined past the end. */
  readonly a: number | undefined;
  readonly b: number | undefined;
}

const nextPiece = async (pieces: AsyncGenerator<Buffer, void>): Promise<Buffer> =>
  (await pieces.next()).value ?? Buffer.alloc(0);

async function firstDifferenceInStore(a: string, b: string): Promise<Difference | undefined> {
  const left = readContent(a);
  const right = readContent(b);
  let x: Buffer = Buffer.alloc(0);
  let y: Buffer = Buffer.alloc(0);
  let offset = 0;
  for (;;) {
    if (!x.length) x = await nextPiece(left);
    if (!y.length) y = await nextPiece(right);
    const shared = Math.min(x.length, y.length);
    if (!shared) return x.length || y.length ? { offset, a: x[0], b: y[0] } : undefined;
    if (!x.subarray(0, shared).equals(y.subarray(0, shared))) {
      let i = 0;
      while (x[i] === y[i]) i++;
      return { offset: offset + i, a: x[i], b: y[i] };
    }
    x = x.subarray(shared);
    y = y.subarray(shared);
    offset += shared;
  }
}
