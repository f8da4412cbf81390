/** An SVG file as it is written: its elements, and what its style sheets say of them. */
import { ReadError } from '../../model/problem.ts';
import type { Limits } from '../../model/limits.ts';
import type { Source } from '../../model/source.ts';
import { parseXml } from '../xml/parse.ts';
import { XmlSource, type XmlLanguage } from '../xml/source.ts';
import { parseDeclarations, StyleSheet } from './css.ts';
import { SVG_NAMESPACE } from './namespace.ts';

const svg: XmlLanguage = {
  format: 'svg',
  order: 'covering',
  whole: new Set(['text', 'style', 'script', 'title', 'desc', 'metadata', 'foreignObject']),
  isHousekeeping: (name) => name === 'metadata' || name.includes(':'),
};

/** Throws ReadError for what is no SVG drawing. */
export function sourceOfSvg(bytes: Uint8Array, limits: Limits): Source {
  const document = parseXml(bytes, limits, SVG_NAMESPACE);
  const { root } = document;
  if (root.name !== 'svg') throw new ReadError('The file is XML, but no SVG drawing.', root.start);
  return new SvgSource(svg, document, bytes);
}

class SvgSource extends XmlSource {
  private sheet: StyleSheet | undefined;
  private sheetText: string | undefined;

  protected override stylesOf(other: XmlSource, node: number): string | undefined {
    if (!(other instanceof SvgSource) || other === this) return undefined;
    if (other.styles === this.styles || other.styles === '') return undefined;
    other.sheet ??= new StyleSheet();
    if (other.sheetText === undefined) {
      other.sheetText = other.styles;
      other.sheet.add(other.styles, () => undefined);
    }
    const e = other.element(node);
    const rules = other.sheet.matching(e);
    if (rules.length === 0) return undefined;
    const declared = Object.assign({}, ...rules, parseDeclarations(e.attributes['style'] ?? '')) as Record<
      string,
      string
    >;
    const own = Object.entries(declared).map(([name, value]) => `${name}:${value}`);
    return `style="${own.join(';').replaceAll('&', '&amp;').replaceAll('"', "'").replaceAll('<', '&lt;')}"`;
  }

  private get styles(): string {
    const sheets = this.nodes.flatMap((n, k) => (n.kind === 'style' ? [this.content(k)] : []));
    return sheets.join('\n');
  }
}
