/** Pictures and pages that are made for browsers. */
import type { FlatFormat } from '@ovrel/core/contract';
import type { Box } from '@ovrel/core';
import { runTask } from '../compute/pool.ts';
import { maybeBytes } from './codec.ts';
import { computed, unlessTooHeavy, type Fact } from './fact.ts';
import { endingOf, isReadable, sourceOf, type Subject } from './subject.ts';

/** Longer side of a page, in pixels: sharp on A3 up to a zoom of two. */
export const PAGE_SIDE = 2800;

interface Paged {
  readonly subject: Subject;
  readonly page: number;
}

type Drawn = Fact<Paged, Buffer | undefined>;

const buffer = (bytes: Uint8Array | null): Buffer | undefined => (bytes?.length ? Buffer.from(bytes) : undefined);

const page: Drawn = {
  name: 'page',
  version: 1,
  placeOf: ({ subject, page: k }) => ({ contentId: subject.content_id, detail: String(k) }),
  codec: maybeBytes,
  compute: async ({ subject, page: k }) =>
    buffer(await runTask('page', { source: sourceOf(subject), page: k, side: PAGE_SIDE })),
};

const seen: Drawn = {
  name: 'seen',
  version: 1,
  placeOf: ({ subject, page: k }) => ({ contentId: subject.content_id, detail: String(k) }),
  codec: maybeBytes,
  compute: async ({ subject, page: k }) => buffer(await runTask('seen', { source: sourceOf(subject), page: k })),
};

const layer: Fact<{ readonly subject: Subject; readonly layer: number }, Buffer | undefined> = {
  name: 'layer',
  version: 1,
  placeOf: ({ subject, layer: k }) => ({ contentId: subject.content_id, detail: String(k) }),
  codec: maybeBytes,
  compute: async ({ subject, layer: k }) => buffer(await runTask('layer', { source: sourceOf(subject), layer: k })),
};

const openRaster: Fact<Subject, Buffer | undefined> = {
  name: 'open-raster',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: '' }),
  codec: maybeBytes,
  compute: async (subject) => buffer(await runTask('openRaster', { source: sourceOf(subject) })),
};

const scene: Drawn = {
  name: 'scene',
  version: 1,
  placeOf: ({ subject, page: k }) => ({ contentId: subject.content_id, detail: `${k}.${endingOf(subject)}` }),
  codec: maybeBytes,
  compute: async ({ subject, page: k }) => buffer(await runTask('scene', { source: sourceOf(subject), page: k })),
};

const space: Fact<Subject, Buffer | undefined> = {
  name: 'space',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: endingOf(subject) }),
  codec: maybeBytes,
  compute: async (subject) => buffer(await runTask('space', { source: sourceOf(subject) })),
};

const cells: Fact<Subject, Buffer | undefined> = {
  name: 'cells',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: endingOf(subject) }),
  codec: maybeBytes,
  compute: async (subject) => buffer(await runTask('cells', { source: sourceOf(subject) })),
};

/** Undefined where it cannot be drawn, or took too long this time. */
const orNothing = async <Key>(
  fact: Fact<Key, Buffer | undefined>,
  key: Key,
  subject: Subject,
): Promise<Buffer | undefined> =>
  isReadable(subject) ? unlessTooHeavy(computed(fact, key), () => undefined) : undefined;

/** A picture that browsers do not show, or a page of a document, as PNG. */
export const pageOf = (subject: Subject, index: number): Promise<Buffer | undefined> =>
  orNothing(page, { subject, page: index }, subject);

/** A page as it is compared with one of another kind, as PNG. */
export const seenPageOf = (subject: Subject, index: number): Promise<Buffer | undefined> =>
  orNothing(seen, { subject, page: index }, subject);

/** One layer of a picture on its canvas, as PNG. */
export const layerOf = (subject: Subject, index: number): Promise<Buffer | undefined> =>
  orNothing(layer, { subject, layer: index }, subject);

/** A layered picture as OpenRaster. */
export const openRasterOf = (subject: Subject): Promise<Buffer | undefined> => orNothing(openRaster, subject, subject);

/** A page as arrays for a graphics processor, gzipped. */
export const sceneBytesOf = (subject: Subject, index: number): Promise<Buffer | undefined> =>
  orNothing(scene, { subject, page: index }, subject);

/** A model as arrays for a graphics processor, gzipped. */
export const spaceBytesOf = (subject: Subject): Promise<Buffer | undefined> => orNothing(space, subject, subject);

/** A table as JSON, gzipped. */
export const cellBytesOf = (subject: Subject): Promise<Buffer | undefined> => orNothing(cells, subject, subject);

export interface Flat {
  readonly view: number;
  readonly cut?: number | undefined;
  readonly format: FlatFormat;
}

/** A model drawn flat, as a drawing. It is made faster than it would be kept. */
export async function flatOf(subject: Subject, { view, cut, format }: Flat): Promise<Buffer | undefined> {
  if (!isReadable(subject)) return undefined;
  const input = { source: sourceOf(subject), view, format, ...(cut === undefined ? {} : { cut }) };
  return unlessTooHeavy(runTask('flat', input).then(buffer), () => undefined);
}

export const flatViewsOf = async (subject: Subject): Promise<readonly string[]> =>
  isReadable(subject) ? unlessTooHeavy(runTask('flatViews', { source: sourceOf(subject) }), () => []) : [];

/** Part of a page of a document, as PNG. These are too many to be kept. */
export async function partOf(subject: Subject, index: number, box: Box, side: number): Promise<Buffer | undefined> {
  if (!isReadable(subject)) return undefined;
  const work = runTask('page', { source: sourceOf(subject), page: index, side, box });
  return unlessTooHeavy(work.then(buffer), () => undefined);
}

/** A page, or an area of it, drawn from its parts as an SVG drawing. It is made faster than it would be kept. */
export async function drawingOf(subject: Subject, index: number, box?: Box): Promise<Buffer | undefined> {
  if (!isReadable(subject)) return undefined;
  const work = runTask('drawing', { source: sourceOf(subject), page: index, ...(box ? { box } : {}) });
  return unlessTooHeavy(work.then(buffer), () => undefined);
}
