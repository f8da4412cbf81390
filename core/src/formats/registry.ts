/** The formats that Ovrel knows. A new format is one new folder and one line here. */
import { picturedKinds, type Card } from '../model/card.ts';
import { avif } from './avif/card.ts';
import { csv } from './csv/card.ts';
import { dxf } from './dxf/card.ts';
import { gif } from './gif/card.ts';
import { glb } from './glb/card.ts';
import { gltf } from './gltf/card.ts';
import { gzip } from './gzip/card.ts';
import { html } from './html/card.ts';
import { ifc } from './ifc/card.ts';
import { ifczip } from './ifczip/card.ts';
import { jpeg } from './jpeg/card.ts';
import { markdown } from './markdown/card.ts';
import { mtl } from './mtl/card.ts';
import { obj } from './obj/card.ts';
import { odf } from './odf/card.ts';
import { ods } from './ods/card.ts';
import { ooxml } from './ooxml/card.ts';
import { ora } from './ora/card.ts';
import { pdf } from './pdf/card.ts';
import { png } from './png/card.ts';
import { psd } from './psd/card.ts';
import { ply } from './ply/card.ts';
import { step } from './step/card.ts';
import { stl } from './stl/card.ts';
import { svg } from './svg/card.ts';
import { svgz } from './svgz/card.ts';
import { text } from './text/card.ts';
import { threemf } from './threemf/card.ts';
import { tiff } from './tiff/card.ts';
import { webp } from './webp/card.ts';
import { xlsx } from './xlsx/card.ts';
import { zip } from './zip/card.ts';

/** Those that say more of a content stand before those that say less. */
export const cards: readonly Card[] = [
  ora,
  psd,
  threemf,
  ifczip,
  xlsx,
  ods,
  ooxml,
  odf,
  png,
  jpeg,
  gif,
  webp,
  avif,
  tiff,
  zip,
  glb,
  svgz,
  gzip,
  dxf,
  pdf,
  html,
  svg,
  gltf,
  ifc,
  step,
  stl,
  ply,
  mtl,
  obj,
  csv,
  markdown,
  text,
];

/** Bytes that are enough for `detect`. */
export const HEAD_BYTES = 65_536;

/** What the bytes are; undefined for bytes of no known kind. The most certain format wins, then the first. */
export function detect(head: Uint8Array, name = ''): Card | undefined {
  const likely: Card[] = [];
  for (const card of cards) {
    const confidence = card.sniff(head, name);
    if (confidence === 'certain') return card;
    if (confidence === 'likely') likely.push(card);
  }
  return likely[0];
}

export const extensionOf = (fileName: string): string => /\.([^./\\]+)$/.exec(fileName)?.[1]?.toLowerCase() ?? '';

/** The format that a file's name promises; undefined for unknown endings. */
export function promisedBy(fileName: string): Card | undefined {
  const extension = extensionOf(fileName);
  return cards.find((card) => card.extensions.includes(extension));
}

export const cardOf = (id: string | null | undefined): Card | undefined => cards.find((card) => card.id === id);

/** Whether there is a picture to be had of contents of a format. */
export const isDrawable = (card: Card | undefined): boolean =>
  card?.kinds.some((kind) => picturedKinds.has(kind)) ?? false;

/** Whether files of two formats can take one another's place as versions of one file without a question. */
export function isSameFormat(a: Card | undefined, b: Card | undefined): boolean {
  if (a === b) return true;
  return a !== undefined && b !== undefined && a.kinds[0] === b.kinds[0] && Boolean(a.general ?? b.general);
}
