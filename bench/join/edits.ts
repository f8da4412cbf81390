/** Edits of single records of a drawing, of which it is known what both together make of it. */
import { groupsOf, isElement, sourceOf, type Drawing, type Group, type Item } from '../accuracy/drawing.ts';
import type { Random } from '../accuracy/scripts.ts';

/** What becomes of a record: nothing, itself changed, or itself and a new one. */
export type Edit = (item: Item) => readonly Item[];

const X_CODES: ReadonlySet<number> = new Set([10, 11, 12, 13]);

function set(source: string, code: number, value: string): string {
  const groups = groupsOf(source);
  const at = groups.findIndex((g) => g[0] === code);
  if (at >= 0) groups[at] = [code, value];
  else groups.splice(groups.findIndex((g) => g[0] === 8) + 1, 0, [code, value]);
  return sourceOf(groups);
}

const movedDxf = (source: string, dx: number): string =>
  sourceOf(
    groupsOf(source).map(([code, value]): Group => [code, X_CODES.has(code) ? String(Number(value) + dx) : value]),
  );

const withHandle = (source: string, handle: number): string =>
  source.replace(/^( *5\n).*$/m, `$1${handle.toString(16).toUpperCase()}`);

const typeOf = (item: Item): string => groupsOf(item.source)[0]?.[1].trim() ?? '';

/** What may be moved by its first coordinates alone. */
const PLAIN: ReadonlySet<string> = new Set(['LINE', 'CIRCLE', 'ARC', 'TEXT', 'LWPOLYLINE', 'INSERT', 'POINT']);

function dxfEdit(item: Item, random: Random, next: () => number): Edit | undefined {
  if (!PLAIN.has(typeOf(item)) || /^ *66\n *1$/m.test(item.source)) return undefined;
  const step = 3 + random(50);
  const colour = String(10 + random(200));
  const handle = next();
  const edits: Edit[] = [
    (i) => [{ ...i, source: movedDxf(i.source, step) }],
    (i) => [{ ...i, source: set(i.source, 62, colour) }],
    () => [],
    (i) => [i, { from: -1, source: withHandle(movedDxf(i.source, step + 0.5), handle) }],
  ];
  if (typeOf(item) === 'TEXT')
    edits.push((i) => [{ ...i, source: i.source.replace(/^( *1\n)(.*)$/m, `$1$2 r${step}`) }]);
  return edits[random(edits.length)];
}

const tagOf = (source: string): string => /^<[^>]*>/.exec(source)?.[0] ?? '';

function withAttribute(source: string, name: string, value: string): string {
  const tag = tagOf(source);
  const known = new RegExp(`(\\s${name}\\s*=\\s*)(?:"[^"]*"|'[^']*')`);
  const changed = known.test(tag)
    ? tag.replace(known, `$1"${value}"`)
    : tag.replace(/(\/?>)$/, ` ${name}="${value}"$1`);
  return changed + source.slice(tag.length);
}

function movedSvg(source: string, step: number): string {
  const own = /\stransform\s*=\s*["']([^"']*)["']/.exec(tagOf(source))?.[1] ?? '';
  return withAttribute(source, 'transform', `translate(${step},0) ${own}`.trim());
}

const restyled = (source: string, colour: string): string =>
  withAttribute(source.replace(/(["';\s])(?:fill|stroke):[^;"']*;?/g, '$1'), 'stroke', colour);

function svgEdit(item: Item, random: Random): Edit | undefined {
  if (!isElement(item)) return undefined;
  const step = 2 + random(9);
  const colour = `#${100_000 + random(800_000)}`;
  const edits: Edit[] = [
    (i) => [{ ...i, source: movedSvg(i.source, step) }],
    (i) => [{ ...i, source: restyled(i.source, colour) }],
    () => [],
    (i) => [
      i,
      { from: -1, source: `\n${movedSvg(i.source.replace(/\sid\s*=\s*(?:"[^"]*"|'[^']*')/g, ''), step + 0.5)}` },
    ],
  ];
  return edits[random(edits.length)];
}

export interface Sides {
  readonly ours: Drawing;
  readonly theirs: Drawing;
  /** Both done. */
  readonly both: Drawing;
  /** Records that both sides edited. */
  readonly shared: number;
}

/** Two sides that edit `count` records each; `shared` of them are the same, and differently. */
export function twoSides(base: Drawing, random: Random, count: number, shared: number): Sides {
  let handle = 0xf00000 + random(1000) * 64;
  const edit = (item: Item): Edit | undefined =>
    base.format === 'dxf' ? dxfEdit(item, random, () => handle++) : svgEdit(item, random);
  const able = base.items.flatMap((item, k) => (edit(item) ? [k] : []));
  const chosen = new Set<number>();
  while (chosen.size < Math.min(able.length, 2 * count)) chosen.add(able[random(able.length)] as number);
  const order = [...chosen];
  const mine = new Map<number, Edit>();
  const other = new Map<number, Edit>();
  order.forEach((k, n) => {
    const one = edit(base.items[k] as Item);
    if (one) (n % 2 ? mine : other).set(k, one);
  });
  let clashing = 0;
  for (const k of mine.keys()) {
    if (clashing >= shared) break;
    other.set(k, (i) => [{ ...i, source: base.format === 'dxf' ? movedDxf(i.source, 77) : movedSvg(i.source, 77) }]);
    mine.set(k, (i) => [{ ...i, source: base.format === 'dxf' ? movedDxf(i.source, -33) : movedSvg(i.source, -33) }]);
    clashing++;
  }
  const applied = (edits: readonly Map<number, Edit>[]): Drawing => ({
    ...base,
    items: base.items.flatMap((item, k) => edits.find((e) => e.has(k))?.get(k)?.(item) ?? [item]),
  });
  return { ours: applied([mine]), theirs: applied([other]), both: applied([mine, other]), shared: clashing };
}
