/** For tests: contents from text, opened, read and compared. */
import './node/engines.ts';
import type { Comparison } from './contract/comparison.ts';
import { readDxf } from './formats/dxf/read.ts';
import { detect, extensionOf, HEAD_BYTES } from './formats/registry.ts';
import { readSvg } from './formats/svg/read.ts';
import { readLines } from './formats/text/read.ts';
import { compareFiles, type Compared } from './kinds/compare-files.ts';
import { open } from './kinds/content.ts';
import { modelOf } from './kinds/conversions.ts';
import type { CompareOptions } from './kinds/kind.ts';
import type { Design } from './model/design.ts';
import type { OpenLayered } from './model/format.ts';
import { defaultLimits } from './model/limits.ts';
import type { Picture, PictureFacts } from './model/picture.ts';

export type Given = string | Uint8Array;

export const bytesOf = (given: Given): Uint8Array =>
  typeof given === 'string' ? new TextEncoder().encode(given) : Uint8Array.from(given);

const readers: Readonly<Record<string, (bytes: Uint8Array, limits: typeof defaultLimits) => Design>> = {
  svg: readSvg,
  dxf: readDxf,
};

/** The parts of a drawing, or the lines of anything else, by the ending of its name. Throws ReadError. */
export const designOf = (given: Given, name: string): Design =>
  (readers[extensionOf(name)] ?? readLines)(bytesOf(given), defaultLimits);

/** Two contents of one name. */
export const compared = async (a: Given, b: Given, name: string, options?: CompareOptions): Promise<Compared> =>
  compareFiles(await open(bytesOf(a), name), await open(bytesOf(b), name), options);

export const comparedFiles = async (
  [nameA, a]: readonly [string, Given],
  [nameB, b]: readonly [string, Given],
): Promise<Compared> => compareFiles(await open(bytesOf(a), nameA), await open(bytesOf(b), nameB));

export const sentences = ({ comparison }: { readonly comparison: Pick<Comparison, 'causes'> }): string[] =>
  comparison.causes.map((cause) => cause.sentence);

/** A page of a picture. Throws ReadError. */
export const pictureOf = async (given: Uint8Array, page = 0): Promise<Picture> =>
  (await modelOf(await open(bytesOf(given), ''), 'picture')).page(page);

/** What a picture's file says of it. Throws ReadError. */
export async function factsOf(given: Uint8Array): Promise<PictureFacts> {
  const format = await detect(given.subarray(0, HEAD_BYTES))?.load();
  if (!format?.facts) throw new Error('the content is no picture');
  return format.facts(bytesOf(given));
}

export async function layeredOf(given: Uint8Array): Promise<OpenLayered> {
  const format = await detect(given.subarray(0, HEAD_BYTES))?.load();
  if (!format?.layers) throw new Error('the content is no layered picture');
  return format.layers(bytesOf(given));
}
