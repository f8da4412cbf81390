/**
 * Text elements (SVG 2 §11): the words, where each run begins, and an estimated box; there are no font metrics here.
 */
import type { Lettering } from '../../model/design.ts';
import type { Box } from '../../geometry/box.ts';
import { ADVANCE } from '../../geometry/lettering.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf } from './length.ts';
import type { Style } from './style.ts';

export function fontSizeOf(style: Style): number {
  const words: Record<string, number> = {
    'xx-small': 9,
    'x-small': 10,
    small: 13,
    medium: 16,
    large: 18,
    'x-large': 24,
    'xx-large': 32,
  };
  const text = style['font-size'] ?? '16';
  return words[text] ?? Math.max(0, lengthOf(text, 16, 16));
}

export function readLettering(e: XmlElement, style: Style, viewWidth: number, viewHeight: number): Lettering {
  const size = fontSizeOf(style);
  const runs: { text: string; x: number; y: number }[] = [];
  let x = 0;
  let y = 0;
  let text = '';
  const flush = (): void => {
    const words = text.replace(/\s+/g, ' ').trim();
    if (words) runs.push({ text: words, x, y });
    text = '';
  };
  const first = (list: string | undefined, full: number): number | undefined =>
    list === undefined ? undefined : lengthOf(list.trim().split(/[\s,]+/)[0], full, 0);
  const walk = (node: XmlElement): void => {
    const nx = first(node.attributes['x'], viewWidth);
    const ny = first(node.attributes['y'], viewHeight);
    const dx = first(node.attributes['dx'], viewWidth);
    const dy = first(node.attributes['dy']?.replace(/em\b/, ''), viewHeight);
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
    runs,
    size,
    family: (style['font-family'] ?? 'serif').replace(/["']/g, ''),
    weight: style['font-weight'] ?? '400',
    anchor: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
  };
}

/** The `<textPath>` of a text, if its words follow a path. */
export const pathOf = (e: XmlElement): XmlElement | undefined =>
  e.children.find((c): c is XmlElement => typeof c !== 'string' && c.name === 'textPath');

/**
 * Estimated bounds of words along a line of points, all on the page; `offsetOf` gives where they begin, for the
 * line's length.
 */
export function boxAlong(
  points: ArrayLike<number>,
  l: Lettering,
  scale: number,
  offsetOf: (whole: number) => number,
): Box | undefined {
  let whole = 0;
  for (let i = 2; i + 1 < points.length; i += 2)
    whole += Math.hypot(
      (points[i] as number) - (points[i - 2] as number),
      (points[i + 1] as number) - (points[i - 1] as number),
    );
  const size = l.size * scale;
  const length = l.runs.reduce((n, r) => n + r.text.length, 0) * size * ADVANCE;
  const offset = offsetOf(whole);
  const from = offset - { start: 0, middle: length / 2, end: length }[l.anchor];
  const to = from + length;
  let along = 0;
  let box: [number, number, number, number] | undefined;
  const take = (x: number, y: number): void => {
    box = box ? [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)] : [x, y, x, y];
  };
  for (let i = 2; i + 1 < points.length; i += 2) {
    const x0 = points[i - 2] as number;
    const y0 = points[i - 1] as number;
    const dx = (points[i] as number) - x0;
    const dy = (points[i + 1] as number) - y0;
    const step = Math.hypot(dx, dy);
    const a = Math.max(0, (from - along) / step);
    const b = Math.min(1, (to - along) / step);
    if (step > 0 && a <= b) {
      take(x0 + a * dx, y0 + a * dy);
      take(x0 + b * dx, y0 + b * dy);
    }
    along += step;
  }
  // Letters stand on either side of the line, depending on its turns.
  return box && [box[0] - size * 0.78, box[1] - size * 0.78, box[2] + size * 0.78, box[3] + size * 0.78];
}
