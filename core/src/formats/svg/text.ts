/** Text elements (SVG 2 §11): the words, where each run begins, and an estimated box; there are no font metrics here. */
import type { Lettering } from '../../model/design.ts';
import { applyX, applyY, type Matrix } from '../../geometry/matrix.ts';
import type { Box } from '../../geometry/box.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf } from './length.ts';
import type { Style } from './style.ts';

/** Mean advance of Latin letters in common faces, in ems. */
const ADVANCE = 0.54;
const ASCENT = 0.78;
const DESCENT = 0.22;

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

/** Estimated bounds on the page. */
export function letteringBox(l: Lettering, m: Matrix): Box | undefined {
  let box: [number, number, number, number] | undefined;
  for (const run of l.runs) {
    const w = run.text.length * l.size * ADVANCE;
    const left = l.anchor === 'start' ? run.x : l.anchor === 'middle' ? run.x - w / 2 : run.x - w;
    for (const [px, py] of [[left, run.y - l.size * ASCENT], [left + w, run.y - l.size * ASCENT], [left, run.y + l.size * DESCENT], [left + w, run.y + l.size * DESCENT]] as const) {
      const x = applyX(m, px, py), y = applyY(m, px, py);
      box = box ? [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)] : [x, y, x, y];
    }
  }
  return box?.every(Number.isFinite) ? box : undefined;
}
