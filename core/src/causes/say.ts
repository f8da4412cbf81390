/** From codes and values to sentences: the only place where causes are put into words. */
import { uncapital, wholly } from './phrases.ts';
import { drawingSayings } from './sayings/drawing.ts';
import { layerSayings, sayLayer, type NamedLayer } from './sayings/layers.ts';
import { lineSayings } from './sayings/lines.ts';
import { pictureSayings } from './sayings/picture.ts';
import { solidSayings } from './sayings/solid.ts';
import { tableSayings } from './sayings/table.ts';

const sayings = {
  ...solidSayings,
  ...drawingSayings,
  ...lineSayings,
  ...pictureSayings,
  ...layerSayings,
  ...tableSayings,
};

export type CauseCode = keyof typeof sayings;

/** Everything that can be said. */
export const causeCodes = Object.keys(sayings) as readonly CauseCode[];

type ValuesOf<Code extends CauseCode> =
  Parameters<(typeof sayings)[Code]> extends [infer Values] ? Values : Readonly<Record<string, never>>;

/** What a cause says: a code, with the values that its sentence needs. */
export type Saying = { [Code in CauseCode]: { readonly code: Code; readonly values: ValuesOf<Code> } }[CauseCode];

/** Where within something larger a cause belongs: a page, a layer, or a layer of which all was changed. */
export interface Within {
  readonly page?: string;
  readonly layer?: string;
  /** The layer that all of it was done to; the sentence begins with it. */
  readonly whole?: NamedLayer;
}

export function say({ code, values }: Saying, within: Within = {}): string {
  const sentence = (sayings[code] as (values: unknown) => string)(values);
  const said = within.whole ? `${sayLayer(within.whole)}: ${uncapital(sentence)}` : sentence;
  const onLayer = within.layer === undefined ? '' : ` on layer ${wholly(within.layer)}`;
  const onPage = within.page === undefined ? '' : ` on ${wholly(within.page)}`;
  return `${said}${onLayer}${onPage}`;
}
