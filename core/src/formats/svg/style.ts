/** From attributes, style sheets and inline styles to the effective style of each element (SVG 2 §6). */
import type { XmlElement } from '../xml/parse.ts';
import { normaliseColour } from './colour.ts';
import { lengthOf, splitLength } from './length.ts';
import { parseDeclarations, type Declarations, type StyleSheet } from './css.ts';

const inherited = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-dashoffset',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-miterlimit',
  'fill-opacity',
  'stroke-opacity',
  'fill-rule',
  'color',
  'visibility',
  'font-family',
  'font-size',
  'font-style',
  'font-weight',
  'text-anchor',
  'letter-spacing',
  'word-spacing',
  'marker',
  'marker-start',
  'marker-mid',
  'marker-end',
  'paint-order',
  'vector-effect',
] as const;
/** Properties of a container that act on everything inside it. */
const accumulated = ['clip-path', 'mask', 'filter', 'mix-blend-mode'] as const;
const own = [
  'transform',
  'transform-origin',
  'opacity',
  'display',
  'text-decoration',
  'dominant-baseline',
  'baseline-shift',
  ...accumulated,
] as const;
const known: ReadonlySet<string> = new Set([...inherited, ...own]);
const inheritedSet: ReadonlySet<string> = new Set(inherited);

/** Effective values by property; a missing one has its initial value. */
export type Style = Readonly<Record<string, string>>;
export const initialStyle: Style = {};

export class Styler {
  private readonly inline = new Map<string, Declarations>();
  private readonly sheet: StyleSheet;

  constructor(sheet: StyleSheet) {
    this.sheet = sheet;
  }

  /** The style of `element` inside a parent with style `outer`. */
  styleOf(element: XmlElement, outer: Style): Style {
    const said = this.specified(element);
    const style: Record<string, string> = {};
    for (const name in outer) if (inheritedSet.has(name)) style[name] = outer[name] as string;
    for (const name in said) if (known.has(name) && said[name] !== 'inherit') style[name] = said[name] as string;
    if (outer['display'] === 'none') style['display'] = 'none';
    const opacity = number(outer['opacity'], 1) * number(said['opacity'], 1);
    if (opacity !== 1) style['opacity'] = String(Math.round(opacity * 1e4) / 1e4);
    else delete style['opacity'];
    for (const name of accumulated) {
      const both = [outer[name], said[name]].filter((v) => v && v !== 'none').join(' ');
      if (both) style[name] = both;
    }
    return style;
  }

  /** What style sheets and the element's own style say of it, without attributes. */
  declared(element: XmlElement): Record<string, string> {
    const said: Record<string, string> = {};
    for (const declarations of this.sheet.matching(element)) Object.assign(said, declarations);
    const { style } = element.attributes;
    return style ? Object.assign(said, parseDeclarations(style)) : said;
  }

  private specified(element: XmlElement): Record<string, string> {
    const { attributes } = element;
    const said: Record<string, string> = {};
    for (const name in attributes) if (known.has(name)) said[name] = (attributes[name] as string).trim();
    for (const declarations of this.sheet.matching(element)) Object.assign(said, declarations);
    const text = attributes['style'];
    if (text) {
      let parsed = this.inline.get(text);
      if (!parsed) {
        parsed = parseDeclarations(text);
        if (this.inline.size < 50_000) this.inline.set(text, parsed);
      }
      Object.assign(said, parsed);
    }
    return said;
  }
}

const number = (text: string | undefined, fallback: number): number => {
  const n = parseFloat(text ?? '');
  if (!Number.isFinite(n)) return fallback;
  if (text?.trim().endsWith('%')) return n / 100;
  return n;
};

/** Four significant digits: enough for any pen, blind to float noise. */
export const rounded = (n: number): number => Number(n.toPrecision(4));

/**
 * The properties that a person would see on a part. Lengths are in design units (after `scale`);
 * what cannot be seen (a dash pattern without a stroke) is left out. `paint` resolves `url(#…)`.
 */
export function visibleProps(
  style: Style,
  scale: number,
  lettering: boolean,
  paint: (reference: string) => string,
): Record<string, string | number> {
  const props: Record<string, string | number> = {};
  const colour = (value: string): string => {
    if (value === 'currentcolor' || value === 'currentColor') return normaliseColour(style['color'] ?? 'black');
    return value.startsWith('url(') ? paint(value) : normaliseColour(value);
  };
  const opacityOf = (name: string): number => rounded(number(style[name], 1));
  props['fill'] = colour(style['fill'] ?? 'black');
  props['stroke'] = colour(style['stroke'] ?? 'none');
  if (props['fill'] !== 'none') {
    if (opacityOf('fill-opacity') !== 1) props['fill-opacity'] = opacityOf('fill-opacity');
    if (style['fill-rule'] === 'evenodd') props['fill-rule'] = 'evenodd';
  }
  if (props['stroke'] !== 'none') {
    const factor = style['vector-effect'] === 'non-scaling-stroke' ? 1 : scale;
    props['stroke-width'] = rounded(lengthOf(style['stroke-width'], HUNDRED, 1) * factor);
    if (opacityOf('stroke-opacity') !== 1) props['stroke-opacity'] = opacityOf('stroke-opacity');
    Object.assign(props, dashProps(style, factor));
    for (const name of ['stroke-linecap', 'stroke-linejoin']) {
      const value = style[name];
      if (value && value !== 'butt' && value !== 'miter') props[name] = value;
    }
    const limit = number(style['stroke-miterlimit'], MITRE);
    if (limit !== MITRE && (style['stroke-linejoin'] ?? 'miter') === 'miter')
      props['stroke-miterlimit'] = rounded(limit);
    const order = style['paint-order'];
    if (order && order !== 'normal' && props['fill'] !== 'none') props['paint-order'] = order.replace(/\s+/g, ' ');
  }
  for (const name of ['marker', 'marker-start', 'marker-mid', 'marker-end', ...accumulated]) {
    const value = style[name];
    if (value && value !== 'none' && value !== 'normal') props[name] = value.replace(/url\([^)]*\)/g, paint);
  }
  if (style['opacity']) props['opacity'] = rounded(number(style['opacity'], 1));
  if (style['display'] === 'none' || style['visibility'] === 'hidden' || style['visibility'] === 'collapse')
    props['hidden'] = 'yes';
  if (lettering) Object.assign(props, letteringProps(style));
  return props;
}

/** Percentages of a stroke are of the page, which is not known here: they stay numbers. */
const HUNDRED = 100;
/** How far corners may reach unless it is said. */
const MITRE = 4;

function dashProps(style: Style, factor: number): Record<string, string | number> {
  const said = (style['stroke-dasharray'] ?? 'none').split(/[\s,]+/).filter((dash) => splitLength(dash) !== undefined);
  if (said.length === 0) return {};
  const offset = rounded(lengthOf(style['stroke-dashoffset'], HUNDRED) * factor);
  return {
    'stroke-dasharray': said.map((dash) => rounded(lengthOf(dash, HUNDRED) * factor)).join(' '),
    ...(offset !== 0 && { 'stroke-dashoffset': offset }),
  };
}

function letteringProps(style: Style): Record<string, string> {
  const props: Record<string, string> = {
    'font-family': (style['font-family'] ?? 'serif').replace(/["']/g, '').replace(/\s*,\s*/g, ', '),
  };
  const weight = style['font-weight']?.replace('normal', '400').replace(/^bold$/, '700');
  if (weight && weight !== '400') props['font-weight'] = weight;
  for (const [name, plain] of [
    ['font-style', 'normal'],
    ['text-anchor', 'start'],
    ['text-decoration', 'none'],
    ['letter-spacing', 'normal'],
    ['word-spacing', 'normal'],
  ] as const) {
    const value = style[name];
    if (value && value !== plain && value !== '0') props[name] = value;
  }
  return props;
}
