/** Edits whose effect is known, each as a person might make it. */
import type { Design } from '@ovrel/core';
import { groupsOf, isElement, owners, read, sourceOf, type Drawing, type Group, type Item } from './drawing.ts';

export type Random = (n: number) => number;

export const randomFrom = (seed: number): Random => {
  let state = seed >>> 0;
  return (n) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 4294967296) * n);
  };
};

export interface Script {
  readonly name: string;
  readonly format: 'dxf' | 'svg';
  /** Kinds of cause of which the first should be one. */
  readonly causes: readonly string[];
  /** undefined where the drawing has nothing for it. */
  readonly edit: (d: Drawing, share: number, random: Random) => Drawing | undefined;
}

const some = (d: Drawing, share: number, random: Random, fits: (item: Item) => boolean = () => true): Set<number> => {
  const able = d.items.flatMap((item, k) => (fits(item) ? [k] : []));
  const wanted = Math.max(1, Math.round(able.length * share));
  const out = new Set<number>();
  while (out.size < Math.min(wanted, able.length)) out.add(able[random(able.length)] as number);
  return out;
};

const mapped = (
  d: Drawing,
  chosen: Set<number>,
  change: (item: Item, k: number) => Item | readonly Item[],
): Drawing | undefined =>
  chosen.size ? { ...d, items: d.items.flatMap((item, k) => (chosen.has(k) ? change(item, k) : item)) } : undefined;

// --- DXF -------------------------------------------------------------------------------------------------------------

const typeOf = (item: Item): string => groupsOf(item.source)[0]?.[1].trim() ?? '';
const xCodes = new Set([10, 11, 12, 13]);
const movable = (item: Item): boolean => !['VIEWPORT'].includes(typeOf(item));
const number = (n: number): string => String(Number(n.toFixed(9)));

/** Coordinates of a record mapped; of a hatch only those of its boundary. */
function points(source: string, map: (x: number, y: number) => readonly [number, number], directions = false): string {
  const groups = groupsOf(source);
  const hatch = groups[0]?.[1].trim() === 'HATCH';
  let seen = 0;
  let type = '';
  groups.forEach(([code, value], i) => {
    if (code === 0) type = value.trim();
    if (!xCodes.has(code) || (code === 11 && ['ELLIPSE', 'MTEXT', 'XLINE', 'RAY'].includes(type) && !directions))
      return;
    // The first point of a hatch is its elevation.
    if (hatch && code === 10 && seen++ === 0) return;
    const next = groups.findIndex((g, k) => k > i && k < i + 3 && g[0] === code + 10);
    if (next < 0) return;
    const [x, y] = map(Number(value), Number(groups[next]?.[1]));
    groups[i] = [code, number(x)];
    groups[next] = [code + 10, number(y)];
  });
  return sourceOf(groups);
}

const set = (source: string, code: number, value: string, after = 8): string => {
  const groups = groupsOf(source);
  const at = groups.findIndex((g) => g[0] === code);
  if (at >= 0) groups[at] = [code, value];
  else groups.splice(groups.findIndex((g) => g[0] === after) + 1, 0, [code, value]);
  return sourceOf(groups);
};

const extent = (d: Drawing): readonly [number, number, number, number] => {
  const box = read(d).pages[0]?.box ?? [0, 0, 1, 1];
  return [box[0], -box[3], box[2], -box[1]];
};

/** Items within a part of the drawing, as a person would select them by a window. */
const windowed = (d: Drawing, share: number, random: Random): Set<number> => {
  const design = read(d);
  const [x0, y0, x1, y1] = extent(d);
  const side = Math.sqrt(share);
  const w = (x1 - x0) * side;
  const h = (y1 - y0) * side;
  const left = x0 + (random(1000) / 1000) * (x1 - x0 - w);
  const low = y0 + (random(1000) / 1000) * (y1 - y0 - h);
  const inside = (p: Design['parts'][number]): boolean =>
    p.box !== undefined && p.box[0] >= left && p.box[2] <= left + w && -p.box[3] >= low && -p.box[1] <= low + h;
  const out = new Set<number>();
  let part = 0;
  d.items.forEach((item, k) => {
    const count = 1 + groupsOf(item.source).filter(([code, value]) => code === 0 && value.trim() === 'ATTRIB').length;
    if (design.parts.slice(part, part + count).every(inside)) out.add(k);
    part += count;
  });
  return out.size ? out : some(d, share, random, movable);
};

const layersIn = (d: Drawing): string[] => [
  ...new Set(d.items.map((i) => groupsOf(i.source).find((g) => g[0] === 8)?.[1] ?? '0')),
];
const onLayer = (d: Drawing, layer: string): Set<number> =>
  new Set(d.items.flatMap((i, k) => (groupsOf(i.source).some((g) => g[0] === 8 && g[1] === layer) ? [k] : [])));
const straight = (item: Item): boolean => typeOf(item) === 'LINE';

const dxfScripts: readonly Script[] = [
  { name: 'nothing', format: 'dxf', causes: [], edit: (d) => d },
  {
    name: 'some moved together',
    format: 'dxf',
    causes: ['motion', 'stretch'],
    edit: (d, share, random) => {
      const [x0, , x1] = extent(d);
      const dx = (x1 - x0) * 0.013;
      const dy = (x1 - x0) * 0.007;
      return mapped(d, windowed(d, share, random), (i) => ({
        ...i,
        source: points(i.source, (x, y) => [x + dx, y + dy]),
      }));
    },
  },
  {
    name: 'some turned together',
    format: 'dxf',
    causes: ['motion'],
    edit: (d, share, random) => {
      const [x0, y0] = extent(d);
      const a = Math.PI / 6;
      const c = Math.cos(a);
      const s = Math.sin(a);
      const chosen = new Set(
        [...windowed(d, share, random)].filter((k) =>
          ['LINE', 'LWPOLYLINE', 'CIRCLE'].includes(typeOf(d.items[k] as Item)),
        ),
      );
      return chosen.size < 2
        ? undefined
        : mapped(d, chosen, (i) => ({
            ...i,
            source: points(i.source, (x, y) => [x0 + (x - x0) * c - (y - y0) * s, y0 + (x - x0) * s + (y - y0) * c]),
          }));
    },
  },
  {
    name: 'some removed',
    format: 'dxf',
    causes: ['removed'],
    edit: (d, share, random) => mapped(d, some(d, share, random), () => []),
  },
  {
    name: 'some copied aside',
    format: 'dxf',
    causes: ['added'],
    edit: (d, share, random) => {
      const [x0, , x1] = extent(d);
      const chosen = some(d, share, random, movable);
      return {
        ...d,
        items: [
          ...d.items,
          ...[...chosen].map((k): Item => ({
            from: -1,
            source: points((d.items[k] as Item).source, (x, y) => [x + (x1 - x0) * 0.31, y]),
          })),
        ],
      };
    },
  },
  {
    name: 'some recoloured',
    format: 'dxf',
    causes: ['style'],
    edit: (d, share, random) =>
      mapped(d, some(d, share, random), (i) => ({ ...i, source: set(i.source.replace(/^420\n\d+\n/m, ''), 62, '30') })),
  },
  {
    name: 'some put on another layer',
    format: 'dxf',
    causes: ['relayered', 'layer-renamed'],
    edit: (d, share) => {
      const layers = layersIn(d);
      const [from] = layers;
      const to = layers[1];
      if (!from || !to) return undefined;
      const on = [...onLayer(d, from)];
      const chosen = new Set(on.slice(0, Math.max(1, Math.round(on.length * share))));
      return mapped(d, chosen, (i) => ({
        ...i,
        source: i.source.replace(new RegExp(`^( *8\n)${from}$`, 'gm'), `$1${to}`),
      }));
    },
  },
  {
    name: 'layer renamed',
    format: 'dxf',
    causes: ['layer-renamed'],
    edit: (d, _, random) => {
      const layers = layersIn(d).filter((l) => l !== '0');
      const layer = layers[random(layers.length)];
      if (!layer) return undefined;
      const rename = (text: string): string => text.replace(new RegExp(`^(  [28]\n)${layer}$`, 'gm'), `$1${layer}-new`);
      return { ...d, before: rename(d.before), items: d.items.map((i) => ({ ...i, source: rename(i.source) })) };
    },
  },
  {
    name: 'layer recoloured',
    format: 'dxf',
    causes: ['layer-look'],
    edit: (d, _, random) => {
      const layers = layersIn(d).filter((l) => l !== '0');
      const layer = layers[random(layers.length)];
      if (!layer || !new RegExp(`AcDbLayerTableRecord\n  2\n${layer}\n`).test(d.before)) return undefined;
      return {
        ...d,
        before: d.before.replace(
          new RegExp(`(AcDbLayerTableRecord\n  2\n${layer}\n(?:(?! *0\n)[^\n]*\n[^\n]*\n)*?420\n)\\d+`),
          '$11234567',
        ),
      };
    },
  },
  {
    name: 'words replaced',
    format: 'dxf',
    causes: ['text'],
    edit: (d, share, random) =>
      mapped(
        d,
        some(d, share, random, (i) => typeOf(i) === 'TEXT'),
        (i) => ({ ...i, source: i.source.replace(/^( *1\n)(.*)$/m, '$1$2 rev') }),
      ),
  },
  {
    name: 'block changed',
    format: 'dxf',
    causes: ['definition'],
    edit: (d, _, random) => {
      const blocks = [
        ...new Set(
          d.items.flatMap((i) =>
            typeOf(i) === 'INSERT' ? [groupsOf(i.source).find((g) => g[0] === 2)?.[1] ?? ''] : [],
          ),
        ),
      ];
      const block = blocks[random(blocks.length)];
      if (!block) return undefined;
      const at = d.before.indexOf('ENDBLK', d.before.indexOf(`AcDbBlockBegin\n  2\n${block}\n`));
      const line = sourceOf([
        [0, 'LINE'],
        [5, 'FFFF01'],
        [100, 'AcDbEntity'],
        [8, '0'],
        [100, 'AcDbLine'],
        [10, '-7'],
        [20, '3'],
        [30, '0'],
        [11, '11'],
        [21, '-4'],
        [31, '0'],
      ]);
      return { ...d, before: `${d.before.slice(0, at - 4)}${line}  0\n${d.before.slice(at)}` };
    },
  },
  {
    name: 'block replaced by another',
    format: 'dxf',
    causes: ['replaced'],
    edit: (d, _, random) => {
      const blocks = [
        ...new Set(
          d.items.flatMap((i) =>
            typeOf(i) === 'INSERT' ? [groupsOf(i.source).find((g) => g[0] === 2)?.[1] ?? ''] : [],
          ),
        ),
      ];
      const from = blocks[random(blocks.length)];
      const to = blocks.find((b) => b !== from);
      if (!from || !to) return undefined;
      return mapped(
        d,
        new Set(
          d.items.flatMap((i, k) =>
            typeOf(i) === 'INSERT' && groupsOf(i.source).some((g) => g[0] === 2 && g[1] === from) ? [k] : [],
          ),
        ),
        (i) => ({ ...i, source: i.source.replace(new RegExp(`^(  2\n)${from}$`, 'm'), `$1${to}`) }),
      );
    },
  },
  {
    name: 'stretched',
    format: 'dxf',
    causes: ['stretch'],
    edit: (d, share) => {
      // A crossing window over one side: corners inside it move, others stay.
      const [x0, , x1] = extent(d);
      const edge = x1 - (x1 - x0) * Math.max(0.12, share);
      const dx = (x1 - x0) * 0.02;
      return mapped(d, new Set(d.items.map((_, k) => k)), (i) =>
        ['LINE', 'LWPOLYLINE', 'TEXT', 'INSERT', 'MTEXT', 'CIRCLE', 'ARC', 'HATCH'].includes(typeOf(i))
          ? { ...i, source: points(i.source, (x, y) => [x > edge ? x + dx : x, y]) }
          : i,
      );
    },
  },
  {
    name: 'circles resized',
    format: 'dxf',
    causes: ['reshaped', 'scale'],
    edit: (d, share, random) =>
      mapped(
        d,
        some(d, share, random, (i) => typeOf(i) === 'CIRCLE'),
        (i) => ({
          ...i,
          source: i.source.replace(
            /^( *40\n)(.*)$/m,
            (_, code: string, r: string) => `${code}${number(Number(r) * 1.3)}`,
          ),
        }),
      ),
  },
  {
    name: 'some scaled together',
    format: 'dxf',
    causes: ['scale', 'reshaped'],
    edit: (d, share, random) => {
      const chosen = new Set(
        [...windowed(d, share, random)].filter((k) => ['LINE', 'LWPOLYLINE'].includes(typeOf(d.items[k] as Item))),
      );
      const [x0, y0] = extent(d);
      return chosen.size < 2
        ? undefined
        : mapped(d, chosen, (i) => ({
            ...i,
            source: points(i.source, (x, y) => [x0 + (x - x0) * 1.07, y0 + (y - y0) * 1.07]),
          }));
    },
  },
  {
    name: 'another origin',
    format: 'dxf',
    causes: ['origin'],
    edit: (d) => ({
      ...d,
      items: d.items.map((i) => ({ ...i, source: points(i.source, (x, y) => [x + 123456.5, y - 9876.25]) })),
    }),
  },
  {
    name: 'units mm → in',
    format: 'dxf',
    causes: ['units'],
    edit: (d) => {
      const lengths = new Set([40, 41, 43, 45, 46]);
      const scale = (source: string): string => {
        const type = groupsOf(source)[0]?.[1].trim();
        let out = points(source, (x, y) => [x / 25.4, y / 25.4], true);
        if (type === 'INSERT') {
          // The writer scales placements, and leaves blocks as they are.
          const groups = groupsOf(out).filter(([c]) => ![41, 42, 43].includes(c));
          const was = Number(groupsOf(out).find(([c]) => c === 41)?.[1] ?? 1);
          const at = groups.findIndex((g) => g[0] === 30) + 1;
          groups.splice(at, 0, ...[41, 42, 43].map((c): Group => [c, number(was / 25.4)]));
          let inAttribute = false;
          out = sourceOf(
            groups.map(([c, v]): Group => {
              if (c === 0) inAttribute = v.trim() === 'ATTRIB';
              return inAttribute && c === 40 ? [c, number(Number(v) / 25.4)] : [c, v];
            }),
          );
        } else
          out = sourceOf(
            groupsOf(out).map(([c, v]): Group =>
              (type === 'HATCH' ? c === 45 || c === 46 : lengths.has(c) && !(type === 'TEXT' && c === 41))
                ? [c, number(Number(v) / 25.4)]
                : [c, v],
            ),
          );
        return out;
      };
      return {
        ...d,
        before: d.before.replace(/(\$INSUNITS\n 70\n)4/, '$11'),
        items: d.items.map((i) => ({ ...i, source: scale(i.source) })),
      };
    },
  },
  {
    name: 'saved with fewer decimals',
    format: 'dxf',
    causes: [],
    edit: (d) => {
      return {
        ...d,
        items: d.items.map((i) => ({
          ...i,
          source: points(i.source, (x, y) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100]),
        })),
      };
    },
  },
  {
    name: 'saved in another order',
    format: 'dxf',
    causes: ['order', 'renumbered'],
    edit: (d) => ({ ...d, items: [...d.items].reverse() }),
  },
  {
    name: 'lines split',
    format: 'dxf',
    causes: ['split'],
    edit: (d, share, random) =>
      mapped(d, some(d, share, random, straight), (i) => {
        const value = (code: number): number => Number(groupsOf(i.source).find((g) => g[0] === code)?.[1]);
        const mx = (value(10) + value(11)) / 2;
        const my = (value(20) + value(21)) / 2;
        const half = (c: readonly [number, number], handle: string): Item => ({
          from: i.from,
          free: true,
          source: set(set(set(i.source, c[0], number(mx)), c[1], number(my)), 5, handle),
        });
        return [
          half([11, 21], groupsOf(i.source).find((g) => g[0] === 5)?.[1] ?? '1'),
          half([10, 20], `E${random(0xffffff).toString(16)}`),
        ];
      }),
  },
  {
    name: 'polylines turned round',
    format: 'dxf',
    causes: [],
    edit: (d, share, random) =>
      mapped(
        d,
        some(d, share, random, (i) => typeOf(i) === 'LWPOLYLINE' && !/^ *42\n/m.test(i.source)),
        (i) => {
          const groups = groupsOf(i.source);
          const at = groups.findIndex((g) => g[0] === 10);
          const vertices = groups.slice(at).filter((g) => g[0] === 10 || g[0] === 20);
          const turned: Group[] = [];
          for (let k = vertices.length - 2; k >= 0; k -= 2) turned.push(vertices[k] as Group, vertices[k + 1] as Group);
          return {
            ...i,
            source: sourceOf([
              ...groups.slice(0, at),
              ...turned,
              ...groups.slice(at).filter((g) => g[0] !== 10 && g[0] !== 20),
            ]),
          };
        },
      ),
  },
  {
    name: 'a block taken apart',
    format: 'dxf',
    causes: ['exploded'],
    edit: (d, _, random) => {
      const inserts = d.items.flatMap((i, k) => (typeOf(i) === 'INSERT' && !/ATTRIB/.test(i.source) ? [k] : []));
      const k = inserts[random(inserts.length)];
      if (k === undefined) return undefined;
      const item = d.items[k] as Item;
      const value = (code: number, otherwise: number): number =>
        Number(groupsOf(item.source).find((g) => g[0] === code)?.[1] ?? otherwise);
      const name = groupsOf(item.source).find((g) => g[0] === 2)?.[1] ?? '';
      const layer = groupsOf(item.source).find((g) => g[0] === 8)?.[1] ?? '0';
      const start = d.before.indexOf(`AcDbBlockBegin\n  2\n${name}\n`);
      const from = d.before.indexOf('\n  0\n', start) + 1;
      const to = d.before.indexOf('  0\nENDBLK', start);
      const a = (value(50, 0) * Math.PI) / 180;
      const c = Math.cos(a) * value(41, 1);
      const s = Math.sin(a) * value(41, 1);
      const inner = dxfDrawingItems(d.before.slice(from, to));
      if (inner.some((i) => !['LINE', 'LWPOLYLINE', 'CIRCLE'].includes(groupsOf(i)[0]?.[1].trim() ?? '')))
        return undefined;
      return {
        ...d,
        items: d.items.flatMap((i, n) =>
          n === k
            ? inner.map((source): Item => ({
                from: k,
                free: true,
                source: points(source.replace(/^( *8\n)0$/m, `$1${layer}`), (x, y) => [
                  value(10, 0) + c * x - s * y,
                  value(20, 0) + s * x + c * y,
                ]),
              }))
            : i,
        ),
      };
    },
  },
];

const dxfDrawingItems = (source: string): string[] => {
  const out: string[] = [];
  let current: Group[] = [];
  for (const group of groupsOf(source)) {
    if (group[0] === 0 && current.length) {
      out.push(sourceOf(current));
      current = [];
    }
    current.push(group);
  }
  return current.length ? [...out, sourceOf(current)] : out;
};

// --- SVG -------------------------------------------------------------------------------------------------------------

const attribute = (source: string, name: string, value: (old: string | undefined) => string): string => {
  const head = /^<[^>]*>/.exec(source)?.[0] ?? '';
  const old = new RegExp(`\\s${name}="([^"]*)"`).exec(head)?.[1];
  const without = head.replace(new RegExp(`\\s${name}="[^"]*"`), '');
  return without.replace(/\s*(\/?)>$/, ` ${name}="${value(old)}"$1>`) + source.slice(head.length);
};
const moved = (source: string, dx: number, dy: number): string =>
  attribute(source, 'transform', (old) => `translate(${dx} ${dy})${old ? ` ${old}` : ''}`);
const size = (d: Drawing): number => {
  const box = read(d).pages[0]?.box ?? [0, 0, 100, 100];
  return Math.max(box[2] - box[0], box[3] - box[1]);
};

const svgScripts: readonly Script[] = [
  { name: 'nothing', format: 'svg', causes: [], edit: (d) => d },
  {
    name: 'some moved together',
    format: 'svg',
    causes: ['motion'],
    edit: (d, share, random) => {
      // A shift within a group that is turned or scaled would be another shift on the page.
      const s = size(d);
      const design = read(d);
      const own = owners(d, design);
      const upright = new Set(
        [...own].filter((_, part) =>
          (design.parts[part]?.transform ?? []).slice(0, 4).every((v, k) => Math.abs(v - (k % 3 ? 0 : 1)) < 1e-9),
        ),
      );
      const chosen = some(d, share, random, (i) => isElement(i) && upright.has(d.items.indexOf(i)));
      return mapped(d, chosen, (i) => ({ ...i, source: moved(i.source, Math.round(s * 0.02), Math.round(s * 0.011)) }));
    },
  },
  {
    name: 'some removed',
    format: 'svg',
    causes: ['removed'],
    edit: (d, share, random) => mapped(d, some(d, share, random, isElement), () => []),
  },
  {
    name: 'some copied aside',
    format: 'svg',
    causes: ['added'],
    edit: (d, share, random) => {
      const s = size(d);
      const chosen = some(d, share, random, isElement);
      return mapped(d, chosen, (i) => [
        i,
        {
          from: -1,
          source: attribute(
            moved(i.source, Math.round(s * 0.3), 0),
            'id',
            (old) => `${old ?? 'copy'}-copy${random(1e6)}`,
          ),
        },
      ]);
    },
  },
  {
    name: 'some recoloured',
    format: 'svg',
    causes: ['style'],
    edit: (d, share, random) =>
      mapped(
        d,
        some(d, share, random, (i) => isElement(i) && !i.source.startsWith('<use') && !i.source.startsWith('<image')),
        (i) => ({ ...i, source: attribute(i.source, 'style', (old) => `${old ? `${old};` : ''}fill:#0bad5e`) }),
      ),
  },
  {
    name: 'words replaced',
    format: 'svg',
    causes: ['text'],
    edit: (d, share, random) =>
      mapped(
        d,
        some(d, share, random, (i) => /^<text\b[^>]*>[^<]+<\/text>/.test(i.source)),
        (i) => ({ ...i, source: i.source.replace('</text>', ' rev</text>') }),
      ),
  },
];

export const scripts: readonly Script[] = [...dxfScripts, ...svgScripts];

/** Several edits one after another, by the names of their scripts. */
export const mixes: readonly (readonly string[])[] = [
  ['some moved together', 'layer renamed', 'words replaced'],
  ['block changed', 'some removed', 'some recoloured'],
  ['words replaced', 'some copied aside', 'another origin'],
  ['stretched', 'layer recoloured', 'circles resized'],
  ['some removed', 'words replaced', 'units mm → in'],
  ['block replaced by another', 'some moved together', 'saved in another order'],
];

/** The same drawing with every id and handle made anew. */
export function withoutIds(d: Drawing, random: Random): Drawing {
  if (d.format === 'dxf') {
    let next = 0x200000 + random(0xffff);
    const renumber = (text: string): string =>
      text.replace(/^( *5\n)([0-9A-Fa-f]+)$/gm, (_, code: string) => `${code}${(next++).toString(16).toUpperCase()}`);
    return { ...d, items: d.items.map((i) => ({ ...i, source: renumber(i.source) })) };
  }
  const referred = new Set(
    [...[d.before, ...d.items.map((i) => i.source), d.after].join('').matchAll(/#([\w:.-]+)/g)].map((m) => m[1]),
  );
  const strip = (text: string): string =>
    text.replace(/\sid="([^"]*)"/g, (all, id: string) => (referred.has(id) ? all : ''));
  return { ...d, items: d.items.map((i) => ({ ...i, source: strip(i.source) })) };
}
