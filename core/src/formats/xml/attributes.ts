/** Attributes of an element with their places in the bytes. */
import type { Decoded } from './decode.ts';
import type { XmlElement } from './parse.ts';

export interface Attribute {
  /** As it is written, with its prefix. */
  readonly name: string;
  /** As it is written: references to characters are not resolved. */
  readonly raw: string;
  readonly quote: string;
  /** Bytes of name, sign and quoted value. */
  readonly start: number;
  readonly end: number;
}

const ATTRIBUTE = /([^\s=/>]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g;

/** In the order of the file. The element has been read, so that its tag is well formed. */
export function attributesOf(e: XmlElement, decoded: Decoded): Attribute[] {
  const tag = decoded.scan.slice(e.start, e.openEnd);
  const found: Attribute[] = [];
  for (const hit of tag.matchAll(ATTRIBUTE)) {
    const start = e.start + hit.index;
    const end = start + hit[0].length;
    const quote = decoded.scan[end - 1] as string;
    const length = (hit[2] ?? hit[3] ?? '').length;
    found.push({ name: hit[1] as string, raw: decoded.text(end - 1 - length, end - 1), quote, start, end });
  }
  return found;
}

/** Name of the element as it is written, with its prefix. */
export function tagNameOf(e: XmlElement, decoded: Decoded): string {
  return /^<([^\s/>]+)/.exec(decoded.scan.slice(e.start, e.openEnd))?.[1] ?? e.name;
}

export const isSelfClosing = (e: XmlElement, decoded: Decoded): boolean => decoded.scan[e.openEnd - 2] === '/';

/** Where the closing tag begins; the end of the element where it has none. */
export const closeOf = (e: XmlElement, decoded: Decoded): number =>
  isSelfClosing(e, decoded) ? e.end : decoded.scan.lastIndexOf('</', e.end - 1);
