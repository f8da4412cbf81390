/** Text elements (SVG 2 §11): the words, where each run begins, and an estimated box; there are no font metrics here. */
import type { Lettering } from '../../model/design.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf } from './length.ts';
import type { Style } from './style.ts';

export function fontSizeOf(style: Style): number {
  const words: Record<string, number> = { 'xx-small': 9, 'x-small': 10, small: 13, medium: 16, large: 18, 'x-large': 24, 'xx-large': 32 };
  const text = style['font-size'] ?? '16';
  return words[text] ?? Math.max(0, lengthOf(text, 16, 16));
}

export function readLettering(e: XmlElement, style: Style, viewWidth: number, viewHeight: number): Lettering {
  const size = fontSizeOf(style);
  const runs: { text: string; x: number; y: number }[] = [];
  let x = 0, y = 0, text = '';
  const flush = (): void => {
    const words = text.replace(/\s+/g, ' ').trim();
    if (words) runs.push({ text: words, x, y });
    text = '';
  };
  const first = (list: string | undefined, full: number): number | undefined =>
    list === undefined ? undefined : lengthOf(list.trim().split(/[\s,]+/)[0], full, 0);
  const walk = (node: XmlElement): void => {
    const nx = first(node.attributes['x'], viewWidth), ny = first(node.attributes['y'], viewHeight);
    const dx = first(node.attributes['dx'], viewWidth), dy = first(node.attributes['dy']?.replace(/em\b/, ''), viewHeight);
    const shiftY = node.attributes['dy']?.includes('em') ? (dy ?? 0) * size : dy;
    if (nx !== undefined || ny !== undefined || (shiftY ?? 0) !== 0) {
      flush();
      x = nx ?? x;
      y = ny ?? y;
    }
    x += dx ?? 0;
    y += shiftY ?? 0;
    for (const child of node.children) {
      if (typeof child === 'string') text += child;
      else if (child.name === 'tspan' || child.name === 'a' || child.name === 'textPath') walk(child);
    }
  };
  walk(e);
  flush();
  const anchor = style['text-anchor'];
  return {
    runs, size,
    family: (style['font-family'] ?? 'serif').replace(/["']/g, ''),
    weight: style['font-weight'] ?? '400',
    anchor: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
  };
}
