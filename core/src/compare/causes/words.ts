/** Parts, numbers and directions in the sentences of causes. */
import type { Change } from '../../contract/comparison.ts';
import { plural } from '../../text/plural.ts';
import type { Evidence, Facet } from './explain.ts';

/** Enough digits to tell it from its neighbours, no more; a real minus sign. */
export function sayNumber(n: number): string {
  const rounded = Math.abs(n) >= 1000 ? Math.round(n * 10) / 10 : Number(n.toPrecision(5));
  const text = Math.abs(rounded) < 1e-9 ? '0' : String(rounded);
  return text.replace('-', '−');
}

export const withUnit = (text: string, unit: string): string => (unit ? `${text} ${unit}` : text);

/** "(120, 0) mm", with y as people read it. */
export const sayShift = (e: Evidence, dx: number, dy: number): string =>
  withUnit(`(${sayNumber(zero(dx, e))}, ${sayNumber(zero(e.b.yUp ? -dy : dy, e))})`, e.unit);

export const sayPoint = (e: Evidence, x: number, y: number): string =>
  `(${sayNumber(x)}, ${sayNumber(e.b.yUp ? -y : y)})`;

/** What is smaller than the tolerance is nothing. */
const zero = (n: number, e: Evidence): number => (Math.abs(n) <= e.tolerance ? 0 : n);

export const quoted = (name: string): string =>
  name ? `“${name.length > 60 ? `${name.slice(0, 59)}…` : name}”` : 'without a name';

/** What the parts of some changes are, in the plural: "bolts", "circles", "parts". */
export function kindOf(e: Evidence, facets: readonly Facet[]): string {
  const kinds = new Set(facets.map(([k]) => (e.changes[k] as Change).part.kind));
  return kinds.size === 1 ? ([...kinds][0] as string) : 'part';
}

/** "24 circles", "one circle “hatch”". */
export function sayParts(e: Evidence, facets: readonly Facet[]): string {
  const changes = [...new Set(facets.map(([k]) => k))];
  const [only] = changes;
  if (changes.length === 1 && only !== undefined) return capital(sayPart(e.changes[only] as Change));
  return plural(changes.length, kindOf(e, facets), pluralOf(kindOf(e, facets)));
}

export function sayPart(change: Change): string {
  const { kind, name } = change.part;
  return name && name !== kind
    ? `${kind} ${name.startsWith('“') || name.startsWith(kind) ? name : quoted(name)}`.replace(
        new RegExp(`^${kind} (${kind}\\b)`),
        '$1',
      )
    : `one ${kind}`;
}

const irregular: Readonly<Record<string, string>> = { hatch: 'hatches', leader: 'leaders', viewport: 'viewports' };
export const pluralOf = (kind: string): string =>
  irregular[kind] ?? (kind.endsWith('x') || kind.endsWith('s') ? `${kind}es` : `${kind}s`);

export const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
