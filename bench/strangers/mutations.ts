/** Single changes of SVG drawings: one attribute or one property of one element, as an editor or a script makes them. */

import type { Random } from '../../fuzz/mutate.ts';

/** Gives the new value; undefined where it cannot be changed in this way. */
type Change = (value: string, random: Random) => string | undefined;

const NUMBER = /-?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi;

/** One of the numbers by a fifth, and a little more so that 0 moves, too. */
const oneNumber: Change = (value, random) => {
  const numbers = value.match(NUMBER);
  if (!numbers) return undefined;
  const chosen = random(numbers.length);
  let at = -1;
  return value.replace(NUMBER, (number) => {
    at += 1;
    return at === chosen ? String(Number(number) * 1.2 + 2) : number;
  });
};
const colour: Change = (value) => {
  if (/^(none|inherit|currentcolor)$/i.test(value.trim()) || value.includes('url(')) return undefined;
  return /^#0*$|black/i.test(value.trim()) ? '#c04010' : '#0b3d1f';
};
const toOther =
  (...values: readonly string[]): Change =>
  (value) =>
    values.find((other) => other !== value.trim());

/** How a visible attribute or property is changed. */
const changes: Readonly<Record<string, Change>> = {
  d: oneNumber,
  points: oneNumber,
  transform: oneNumber,
  gradientTransform: oneNumber,
  x: oneNumber,
  y: oneNumber,
  x1: oneNumber,
  y1: oneNumber,
  x2: oneNumber,
  y2: oneNumber,
  cx: oneNumber,
  cy: oneNumber,
  r: oneNumber,
  rx: oneNumber,
  ry: oneNumber,
  width: oneNumber,
  height: oneNumber,
  offset: toOther('0.35', '0.8'),
  fill: colour,
  stroke: colour,
  'stop-color': colour,
  'flood-color': colour,
  'stop-opacity': toOther('0.25', '1'),
  'fill-opacity': toOther('0.3', '1'),
  'stroke-opacity': toOther('0.3', '1'),
  opacity: toOther('0.4', '1'),
  'stroke-width': oneNumber,
  'stroke-dasharray': toOther('3 2', 'none'),
  'stroke-linecap': toOther('round', 'butt', 'square'),
  'stroke-linejoin': toOther('bevel', 'miter'),
  'stroke-miterlimit': toOther('1', '8'),
  'fill-rule': toOther('evenodd', 'nonzero'),
  'clip-path': toOther('none'),
  mask: toOther('none'),
  filter: toOther('none'),
  display: toOther('none', 'inline'),
  visibility: toOther('hidden', 'visible'),
  'font-size': oneNumber,
  'font-weight': toOther('bold', 'normal'),
  'font-style': toOther('italic', 'normal'),
  'text-anchor': toOther('end', 'start'),
  stdDeviation: oneNumber,
  spreadMethod: toOther('reflect', 'pad'),
  preserveAspectRatio: toOther('none'),
};

export interface Mutation {
  /** The attribute or property. */
  readonly what: string;
  readonly text: string;
}

interface Spot {
  readonly what: string;
  readonly start: number;
  readonly end: number;
}

/** Places in the file where a visible value stands. */
function spots(text: string): Spot[] {
  const found: Spot[] = [];
  const body = text.indexOf('<svg');
  for (const tag of text.slice(body).matchAll(/<[a-z]\w*(?:\s[^<>]*?)>/gi)) {
    const from = body + tag.index;
    for (const attribute of tag[0].matchAll(/\s([\w:-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
      const [whole, name = '', double, single] = attribute;
      const value = double ?? single ?? '';
      const start = from + attribute.index + whole.length - value.length - 1;
      if (name === 'style') found.push(...declared(value, start));
      else if (changes[name]) found.push({ what: name, start, end: start + value.length });
    }
  }
  return found;
}

function declared(style: string, start: number): Spot[] {
  return [...style.matchAll(/([\w-]+)\s*:\s*([^;]+)/g)].flatMap((one): Spot[] => {
    const [whole, name = '', value = ''] = one;
    const at = start + one.index + whole.length - value.length;
    return changes[name] ? [{ what: name, start: at, end: at + value.length }] : [];
  });
}

/** One mutation for each attribute and property that occurs, each in a place by chance. */
export function mutationsOf(text: string, random: Random): Mutation[] {
  const byName = new Map<string, Spot[]>();
  for (const spot of spots(text)) byName.set(spot.what, [...(byName.get(spot.what) ?? []), spot]);
  return [...byName].flatMap(([what, list]): Mutation[] => {
    const { start, end } = list[random(list.length)] as Spot;
    const value = changes[what]?.(text.slice(start, end), random);
    return value === undefined ? [] : [{ what, text: text.slice(0, start) + value + text.slice(end) }];
  });
}
