import type { Reference, ReferenceKind } from '../../references/reference.ts';
import { decodeAny } from './plain-text.ts';

const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** Text of markup without its entities. */
export const unescaped = (text: string): string =>
  text.replace(/&(?:#x([0-9a-f]+)|#(\d+)|(\w+));/gi, (whole, hex?: string, dec?: string, name?: string) => {
    const code = hex ? parseInt(hex, 16) : Number(dec ?? NaN);
    if (Number.isNaN(code)) return entities[name ?? ''] ?? whole;
    return code <= 0x10ffff ? String.fromCodePoint(code) : whole;
  });

/** Which attributes of which elements name a file (SVG 2, HTML). */
const markupKinds: Readonly<Record<string, ReferenceKind>> = {
  image: 'picture',
  img: 'picture',
  feimage: 'picture',
  source: 'picture',
  use: 'drawing',
  object: 'drawing',
  embed: 'drawing',
  link: 'style',
  'xml-stylesheet': 'style',
};

/** Files that elements and styles of a text in markup name. */
export function* markupReferences(bytes: Uint8Array): Generator<Reference> {
  const text = decodeAny(bytes).replace(/<!--[^]*?-->/g, '');
  for (const [, name = '', inside = ''] of text.matchAll(
    /<[?]?([a-z][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*[/?]?>/gi,
  )) {
    const element = name.slice(name.lastIndexOf(':') + 1).toLowerCase();
    const kind = markupKinds[element];
    const rel = /\brel\s*=\s*["']?stylesheet/i.test(inside);
    for (const [, attribute = '', double, single] of inside.matchAll(/([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
      const value = unescaped(double ?? single ?? '');
      if (/^style$/i.test(attribute)) yield* inCss(value);
      if (!kind || (element === 'link' && !rel)) continue;
      if (/^srcset$/i.test(attribute))
        for (const part of value.split(',')) yield { target: part.trim().split(/\s+/)[0] ?? '', kind };
      else if (/^(?:(?:xlink:)?href|src|data)$/i.test(attribute)) yield { target: value, kind };
    }
  }
  for (const [, css = ''] of text.matchAll(/<style\b[^>]*>([^]*?)<\/style>/gi))
    yield* inCss(css.replace(/<!\[CDATA\[|\]\]>/g, ''));
}

function* inCss(css: string): Generator<Reference> {
  const text = css.replace(/\/\*[^]*?\*\//g, '');
  for (const [, rule, double, single, bare] of text.matchAll(
    /(@import\s+)?(?:url\(\s*)?(?:"([^"\n]*)"|'([^'\n]*)'|(?<=url\(\s*)([^"')\s]+))\s*\)?/gi,
  )) {
    if (rule || bare !== undefined) yield { target: double ?? single ?? bare ?? '', kind: rule ? 'style' : 'picture' };
  }
  for (const [, double, single] of text.matchAll(/url\(\s*(?:"([^"\n]*)"|'([^'\n]*)')\s*\)/gi))
    yield { target: double ?? single ?? '', kind: 'picture' };
}
