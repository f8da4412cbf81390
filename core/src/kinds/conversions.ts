/** What can be seen as what. */
import { kindIds, type KindId } from '../model/card.ts';
import type { Models } from '../model/format.ts';
import { ReadError } from '../model/problem.ts';
import { surfacesOf } from '../model/solid.ts';
import type { Content } from './content.ts';
import { drawnPages } from './picture/drawn/pages.ts';

interface Conversion<To extends KindId> {
  readonly from: KindId;
  readonly to: To;
  /** Whether there is anything to convert. */
  possible(content: Content): boolean;
  convert(content: Content): Models[To] | Promise<Models[To]>;
}

const drawn: Conversion<'picture'> = {
  from: 'drawing',
  to: 'picture',
  possible: ({ design }) => design !== undefined && design.pages.length > 0,
  convert: drawnPages,
};

/** Plans and sides of a model, beside drawings and pictures. */
const flattened: Conversion<'picture'> = {
  from: 'solid',
  to: 'picture',
  possible: ({ design }) => design !== undefined && surfacesOf(design).length > 0,
  convert: async (content) => {
    // What draws models is loaded with the first one.
    const { flatPages } = await import('./solid/flat/pages.ts');
    return flatPages(content);
  },
};

const plain: Conversion<'bytes'> = {
  from: 'bytes',
  to: 'bytes',
  possible: () => true,
  convert: ({ bytes }) => bytes,
};

const conversions: readonly Conversion<KindId>[] = [drawn, flattened, plain];

const conversionTo = (content: Content, kind: KindId): Conversion<KindId> | undefined =>
  conversions.find((c) => c.to === kind && content.kinds.includes(c.from) && c.possible(content));

/** All that a content can be seen as, by itself or by conversion, nearest first. */
export const seenAs = (content: Content): KindId[] =>
  kindIds.filter((kind) => content.kinds.includes(kind) || conversionTo(content, kind));

/** The content as a kind that it can be seen as. Throws ReadError where it turns out that it cannot. */
export async function modelOf<Kind extends KindId>(content: Content, kind: Kind): Promise<Models[Kind]> {
  if (content.kinds[0] === kind && content.design) return content.design as Models[Kind];
  const read = content.format?.read[kind];
  if (read) return await read(content.bytes, content.limits);
  const conversion = conversionTo(content, kind);
  if (!conversion) throw new ReadError('The content cannot be seen so.', undefined, 'unsupported');
  return (await conversion.convert(content)) as Models[Kind];
}
