/** Parts, numbers, names and lists as the sentences of causes say them. */
import { plural } from '../text/plural.ts';

/** Some parts of one kind; a single one with its name. */
export interface Those {
  readonly count: number;
  readonly kind: string;
  readonly name?: string;
}

/** A shift with y as people read it, and the unit of its numbers (empty for none). */
export interface Shift {
  readonly dx: number;
  readonly dy: number;
  /** Of what stands in space. */
  readonly dz?: number;
  readonly unit: string;
}

/** Enough digits to tell it from its neighbours, no more; a real minus sign. */
export function sayNumber(n: number): string {
  const rounded = Math.abs(n) >= 1000 ? Math.round(n * 10) / 10 : Number(n.toPrecision(5));
  const text = Math.abs(rounded) < 1e-9 ? '0' : String(rounded);
  return text.replace('-', '−');
}

/** At most so many decimals; a real minus sign. */
export const sayDecimal = (n: number, decimals = 2): string => String(Number(n.toFixed(decimals))).replace('-', '−');

export const withUnit = (text: string, unit: string): string => (unit ? `${text} ${unit}` : text);

/** "(120, 0) mm". */
export const sayShift = ({ dx, dy, dz, unit }: Shift): string =>
  withUnit(`(${[dx, dy, ...(dz === undefined ? [] : [dz])].map(sayNumber).join(', ')})`, unit);

export const sayPoint = ([x, y]: readonly [number, number]): string => `(${sayNumber(x)}, ${sayNumber(y)})`;

/** Sizes in whole pixels, "4000 × 3000". */
export const saySize = ([width, height]: readonly [number, number]): string => `${width} × ${height}`;

const LONGEST_NAME = 60;

export const quoted = (name: string): string =>
  name ? `“${name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1)}…` : name}”` : 'without a name';

/** A name as it stands, however long. */
export const wholly = (name: string): string => `“${name}”`;

/** One line of words, cut to a length. */
export const short = (text: string, longest = 40): string =>
  (text.length > longest ? `${text.slice(0, longest - 1)}…` : text).replace(/\s+/g, ' ');

const irregular: Readonly<Record<string, string>> = {
  hatch: 'hatches',
  leader: 'leaders',
  viewport: 'viewports',
  body: 'bodies',
};

export const pluralOf = (kind: string): string =>
  irregular[kind] ?? (kind.endsWith('x') || kind.endsWith('s') ? `${kind}es` : `${kind}s`);

/** "24 circles". */
export const several = (count: number, kind: string): string => plural(count, kind, pluralOf(kind));

export const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

export const uncapital = (text: string): string => `${text.charAt(0).toLowerCase()}${text.slice(1)}`;

/** "circle “hatch”", "one circle". */
export function sayPart(kind: string, name: string): string {
  if (!name || name === kind) return `one ${kind}`;
  if (beginsWithWord(name, kind)) return name;
  const said = name.startsWith('“') || name.startsWith(kind) ? name : quoted(name);
  return `${kind} ${said}`;
}

/** Names that say the kind themselves need no other word for it. */
const beginsWithWord = (name: string, word: string): boolean =>
  name.startsWith(word) && !/\w/.test(name.charAt(word.length));

/** "24 circles", "Circle “hatch”". */
export const sayThose = ({ count, kind, name }: Those): string =>
  count === 1 ? capital(sayPart(kind, name ?? '')) : several(count, kind);

/** "“a”, “b” and “c”"; of more than four the first three and how many more. */
export function quotedList(names: readonly string[]): string {
  const all = names.map(wholly);
  if (all.length > 4) return `${all.slice(0, 3).join(', ')} and ${all.length - 3} more`;
  return all.length > 1 ? `${all.slice(0, -1).join(', ')} and ${all.at(-1)}` : (all[0] ?? '');
}

type Direction = readonly [number, number, number];

/** One of the axes, where it is one. */
export function sayAxis(axis: Direction): string {
  const main = axis.findIndex((value) => Math.abs(value) > 0.99999);
  if (main < 0) return `the axis (${axis.map((value) => sayDecimal(value)).join(', ')})`;
  return `${(axis[main] as number) < 0 ? '−' : ''}${'xyz'[main] ?? ''}`;
}

/** The same for what has no sense of direction. */
export const sayLine = (axis: Direction): string =>
  sayAxis((axis.find((value) => Math.abs(value) > 1e-6) ?? 0) < 0 ? [-axis[0], -axis[1], -axis[2]] : axis);
