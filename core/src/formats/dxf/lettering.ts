/** Single- and multi-line texts, attributes: the words, and where each line begins. */
import type { Box } from '../../geometry/box.ts';
import { ADVANCE, letteringBox } from '../../geometry/lettering.ts';
import { identity, multiply, type Matrix } from '../../geometry/matrix.ts';
import type { Lettering, Scalar } from '../../model/design.ts';
import { flip } from './axes.ts';
import { EMBEDDED, find, keyOf, nameOf, numberOf, textOf, type Span, type StyleRow } from './document.ts';
import type { Groups } from './groups.ts';
import { paragraphs, plainText, unescape } from './words.ts';

/** Height of capitals, which DXF gives, in ems of common faces. */
const CAPITALS = 0.7;
/** Distance of baselines of multi-line text, in heights (DXF reference, MTEXT). */
const SPACING = 5 / 3;

export interface Written {
  readonly lettering: Lettering;
  readonly transform: Matrix;
  readonly box: Box | undefined;
  readonly props: Readonly<Record<string, Scalar>>;
}

export type Styles = ReadonlyMap<string, StyleRow>;

const styleOf = (g: Groups, span: Span, styles: Styles): StyleRow | undefined =>
  styles.get(keyOf(nameOf(g, span, 7) ?? 'STANDARD'));

const propsOf = (height: number, style: StyleRow | undefined): Record<string, Scalar> => ({
  height: Number(height.toPrecision(6)),
  ...(style ? { 'text style': style.name } : {}),
  ...(style?.font ? { font: style.font } : {}),
});

/** By group 72 of a text: left, centre, right, aligned, middle. */
const anchors = ['start', 'middle', 'end', 'start', 'middle'] as const;

/** TEXT, ATTRIB and ATTDEF. `plane` leads from the entity's plane to the page. */
export function singleLine(g: Groups, span: Span, styles: Styles, plane: Matrix, words?: string): Written {
  const style = styleOf(g, span, styles);
  const height = numberOf(g, span, 40, 1);
  const text = plainText(words ?? textOf(g, span, 1) ?? '');
  const across = numberOf(g, span, 72, 0);
  const up = numberOf(g, span, find(g, span, 74) >= 0 && g.word(span.first) !== 'TEXT' ? 74 : 73, 0);
  const x0 = numberOf(g, span, 10, 0);
  const y0 = numberOf(g, span, 20, 0);
  const x1 = numberOf(g, span, 11, x0);
  const y1 = numberOf(g, span, 21, y0);
  const fitted = across === 3 || across === 5;
  const placed = (across !== 0 || up !== 0) && !fitted;
  const turn = fitted ? Math.atan2(y1 - y0, x1 - x0) : (numberOf(g, span, 50, 0) * Math.PI) / 180;
  const natural = Math.max(1, text.length) * (height / CAPITALS) * ADVANCE;
  const stretch =
    fitted && Math.hypot(x1 - x0, y1 - y0) > 0
      ? Math.hypot(x1 - x0, y1 - y0) / natural
      : numberOf(g, span, 41, style?.widthFactor ?? 1);
  const mirror = numberOf(g, span, 71, 0);
  const oblique = numberOf(g, span, 51, style?.oblique ?? 0);
  const slant = Math.tan((oblique * Math.PI) / 180);
  const anchor = anchors[across] ?? 'start';
  const drop = across === 4 ? height / 2 : ([0, -height * 0.25, height / 2, height][up] ?? 0);
  const local: Matrix = [(mirror & 2 ? -1 : 1) * stretch, 0, slant, mirror & 4 ? -1 : 1, 0, 0];
  const transform = multiply(
    multiply(multiply(plane, rotation(turn, placed ? x1 : x0, placed ? y1 : y0)), local),
    flip,
  );
  return written([{ text, x: 0, y: drop }], height, style, anchor, transform, {
    ...propsOf(height, style),
    ...(Math.abs(stretch - 1) > 1e-6 && !fitted ? { 'width factor': Number(stretch.toPrecision(4)) } : {}),
    ...(oblique === 0 ? {} : { slant: Number(oblique.toPrecision(4)) }),
  });
}

/** MTEXT. `page` leads from drawing coordinates to the page. */
export function multiLine(g: Groups, span: Span, styles: Styles, page: Matrix): Written {
  const style = styleOf(g, span, styles);
  const height = numberOf(g, span, 40, 1);
  const width = numberOf(g, span, 41, 0);
  const { lines, formatting } = paragraphs(sourceOf(g, span));
  const size = height / CAPITALS;
  const most = width > 0 ? Math.max(1, Math.floor(width / (size * ADVANCE * (style?.widthFactor ?? 1)))) : Infinity;
  const rows = lines.flatMap((line) => wrapped(line, most));
  const attachment = Math.min(9, Math.max(1, numberOf(g, span, 71, 1)));
  const across = (attachment - 1) % 3;
  const down = Math.floor((attachment - 1) / 3);
  const pitch = height * SPACING * numberOf(g, span, 44, 1);
  const total = height + (rows.length - 1) * pitch;
  const top = height - ([0, total / 2][down] ?? total);
  const dx = numberOf(g, span, 11, NaN);
  const dy = numberOf(g, span, 21, NaN);
  const turn = Number.isNaN(dx) || Number.isNaN(dy) ? (numberOf(g, span, 50, 0) * Math.PI) / 180 : Math.atan2(dy, dx);
  const transform = multiply(multiply(page, rotation(turn, numberOf(g, span, 10, 0), numberOf(g, span, 20, 0))), flip);
  const props = {
    ...propsOf(height, style),
    ...(formatting ? { formatting } : {}),
    ...(width > 0 ? { 'text width': Number(width.toPrecision(6)) } : {}),
  };
  return written(
    rows.map((text, k) => ({ text, x: 0, y: top + k * pitch })),
    height,
    style,
    (['start', 'middle'] as const)[across] ?? 'end',
    transform,
    props,
    lines.join('\n'),
  );
}

/** Long multi-line texts stand in pieces: any number of groups 3, then group 1. */
function sourceOf(g: Groups, span: Span): string {
  let out = '';
  for (let i = span.first + 1; i < span.last; i++) {
    const code = g.codes[i] as number;
    if (code >= 1000 || code === EMBEDDED) break;
    if (code === 1 || code === 3) out += g.text(i);
  }
  return out;
}

/** Signs of the tolerancing typeface, by letter (ISO 1101). */
const signs: Readonly<Record<string, string>> = {
  a: '∠',
  b: '⟂',
  c: '⏥',
  d: '⌓',
  e: '○',
  f: '∥',
  g: '⌭',
  h: '↗',
  i: '⌯',
  j: '⌖',
  k: '⌒',
  l: 'Ⓛ',
  m: 'Ⓜ',
  n: '⌀',
  p: 'Ⓟ',
  r: '◎',
  s: 'Ⓢ',
  t: '⌰',
  u: '⏤',
};

/** TOLERANCE: rows of cells, "%%v" between cells; its lines stand in the text's own units, as its letters do. */
export function controlFrame(
  g: Groups,
  span: Span,
  height: number,
): { written: Written; frame: (readonly [number, number, number, number])[] } {
  const source = unescape(textOf(g, span, 1) ?? '').replace(
    /\{?\\[Ff][Gg][Dd][Tt];(.)\}?/g,
    (all, letter: string) => signs[letter.toLowerCase()] ?? all,
  );
  const rows = source
    .split('\n')
    .map((row) =>
      row
        .split(/%%v/i)
        .map((cell) => plainText(cell).replace(/[{}]/g, '').trim())
        .filter((cell, k, all) => cell || k < all.length - 1),
    )
    .filter((row) => row.some(Boolean));
  const size = height / CAPITALS;
  const tall = height * 2;
  const runs: { text: string; x: number; y: number }[] = [];
  const frame: [number, number, number, number][] = [];
  rows.forEach((row, r) => {
    const top = (r - rows.length / 2) * tall;
    const cells = row.filter(Boolean);
    let x = 0;
    for (const cell of cells) {
      const wide = Math.max(tall, size * ADVANCE * cell.length + height);
      runs.push({ text: cell, x: x + height / 2, y: top + tall / 2 + height / 2 });
      frame.push(
        [x, top, x + wide, top],
        [x, top + tall, x + wide, top + tall],
        [x, top, x, top + tall],
        [x + wide, top, x + wide, top + tall],
      );
      x += wide;
    }
  });
  const turn = Math.atan2(numberOf(g, span, 21, 0), numberOf(g, span, 11, 1));
  const transform = multiply(multiply(flip, rotation(turn, numberOf(g, span, 10, 0), numberOf(g, span, 20, 0))), flip);
  return {
    written: written(
      runs,
      height,
      undefined,
      'start',
      transform,
      {},
      rows.map((row) => row.filter(Boolean).join(' | ')).join('\n'),
    ),
    frame,
  };
}

const rotation = (turn: number, x: number, y: number): Matrix => [
  Math.cos(turn),
  Math.sin(turn),
  -Math.sin(turn),
  Math.cos(turn),
  x,
  y,
];

function wrapped(line: string, most: number): string[] {
  if (line.length <= most) return [line];
  const rows: string[] = [];
  let row = '';
  for (const word of line.split(' ')) {
    if (row && row.length + 1 + word.length > most) {
      rows.push(row);
      row = word;
    } else row = row ? `${row} ${word}` : word;
  }
  return [...rows, row];
}

function written(
  runs: { text: string; x: number; y: number }[],
  height: number,
  style: StyleRow | undefined,
  anchor: Lettering['anchor'],
  transform: Matrix,
  props: Record<string, Scalar>,
  words?: string,
): Written {
  const safe = transform.every(Number.isFinite) ? transform : identity;
  const size = height / CAPITALS;
  const lettering: Lettering = {
    runs: runs.filter((r) => r.text),
    size,
    family: familyFor(style?.font ?? ''),
    weight: /bold/i.test(style?.font ?? '') ? '700' : '400',
    anchor,
    ...(words === undefined ? {} : { words }),
  };
  return { lettering, transform: safe, box: letteringBox(lettering, safe), props };
}

/** Stroke fonts are drawn with a plain sans; a typewriter or roman face keeps its kind. */
const familyFor = (font: string): string => {
  if (/mono|courier|consol|typewr/i.test(font)) return 'monospace';
  if (/times|roman|serif|garamond|georgia/i.test(font) && !/sans|romans\.shx/i.test(font)) return 'serif';
  return 'sans-serif';
};
