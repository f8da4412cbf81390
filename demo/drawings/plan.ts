/** Plan of the landing and a detail of its gangway. Lengths in millimetres on paper, 1:200 and 1:10. */
import { el, layer, sheet, text, titleBlock } from './svg.ts';

export interface Plan {
  readonly pontoon: number;
  readonly gangwayX: number;
  /** Every row of piles: y, and shift along x. */
  readonly piles: readonly (readonly [y: number, shift: number])[];
  readonly kiosk: 'timber' | 'steel';
  readonly fenders: boolean;
  readonly revision: string;
}

export function drawPlan(p: Plan): string {
  const piles = p.piles.flatMap(([y, shift], row) =>
    Array.from({ length: 12 }, (_, i) =>
      el('use', { id: `pile-${row + 1}-${i + 1}`, href: '#pile', x: 150 + i * 24 + shift, y }),
    ),
  );
  const contours = Array.from({ length: 7 }, (_, i) =>
    el('path', {
      id: `contour-${i + 1}`,
      fill: 'none',
      stroke: '#8aa0ad',
      'stroke-width': i % 3 === 0 ? 0.5 : 0.25,
      d: `M20 ${300 + i * 11} C110 ${284 + i * 12} 190 ${322 + i * 8} 290 ${306 + i * 10} S470 ${290 + i * 12} 574 ${312 + i * 9}`,
    }),
  );
  return sheet(
    'Landing plan, Quillmere ferry landing',
    594,
    420,
    el(
      'defs',
      {},
      el(
        'symbol',
        { id: 'pile', overflow: 'visible' },
        el('circle', { r: 3, fill: '#ffffff', stroke: '#17212b', 'stroke-width': 0.6 }),
        el('path', { d: 'M-4.5 0 H4.5 M0 -4.5 V4.5', stroke: '#17212b', 'stroke-width': 0.3 }),
      ),
    ),
    layer(
      'frame',
      {},
      el('rect', {
        id: 'frame',
        x: 10,
        y: 10,
        width: 574,
        height: 400,
        fill: '#ffffff',
        stroke: '#17212b',
        'stroke-width': 0.8,
      }),
    ),
    layer(
      'water',
      {},
      el('path', { id: 'water', d: 'M12 12 H582 V290 C470 268 430 300 300 286 S120 262 12 280 Z', fill: '#dceaf0' }),
      text(
        {
          id: 'water-name',
          x: 40,
          y: 60,
          'font-family': 'serif',
          'font-style': 'italic',
          'font-size': 12,
          fill: '#4b7285',
        },
        'Quillmere Sound',
      ),
    ),
    layer(
      'shore',
      {},
      el('path', {
        id: 'shoreline',
        d: 'M12 280 C120 262 170 300 300 286 S470 268 582 290',
        fill: 'none',
        stroke: '#17212b',
        'stroke-width': 1,
      }),
      ...contours,
    ),
    layer(
      'pontoon',
      {},
      el('rect', {
        id: 'pontoon',
        x: 140,
        y: 110,
        width: p.pontoon,
        height: 46,
        fill: '#f3efe6',
        stroke: '#17212b',
        'stroke-width': 0.8,
      }),
      ...(p.fenders
        ? Array.from({ length: 8 }, (_, i) =>
            el('rect', {
              id: `fender-${i + 1}`,
              x: 146 + i * 36,
              y: 105,
              width: 18,
              height: 5,
              rx: 1,
              fill: '#3f3f46',
            }),
          )
        : []),
      text(
        { id: 'pontoon-name', x: 250, y: 137, 'font-family': 'sans-serif', 'font-size': 7, fill: '#17212b' },
        `Pontoon ${(p.pontoon / 5).toFixed(1)} × 9.2 m`,
      ),
    ),
    layer('piles', {}, ...piles),
    layer(
      'gangway',
      {},
      el('rect', {
        id: 'gangway',
        x: p.gangwayX,
        y: 156,
        width: 16,
        height: 126,
        fill: '#ffffff',
        stroke: '#17212b',
        'stroke-width': 0.8,
      }),
      ...Array.from({ length: 9 }, (_, i) =>
        el('line', {
          id: `tread-${i + 1}`,
          x1: p.gangwayX,
          y1: 168 + i * 13,
          x2: p.gangwayX + 16,
          y2: 168 + i * 13,
          stroke: '#17212b',
          'stroke-width': 0.3,
        }),
      ),
    ),
    layer(
      'buildings',
      {},
      el('rect', {
        id: 'kiosk',
        x: 330,
        y: 312,
        width: 52,
        height: 30,
        fill: p.kiosk === 'timber' ? '#e7d3b1' : '#cfd8dc',
        stroke: '#17212b',
        'stroke-width': 0.8,
      }),
      text(
        { id: 'kiosk-name', x: 336, y: 330, 'font-family': 'sans-serif', 'font-size': 6, fill: '#17212b' },
        `Kiosk, ${p.kiosk} frame`,
      ),
      el('polygon', {
        id: 'shelter',
        points: '180,316 250,308 254,340 184,348',
        fill: '#ffffff',
        stroke: '#17212b',
        'stroke-width': 0.8,
      }),
      text(
        { id: 'shelter-name', x: 196, y: 331, 'font-family': 'sans-serif', 'font-size': 6, fill: '#17212b' },
        'Shelter',
      ),
    ),
    titleBlock(456, 370, { Title: 'Landing plan', Number: 'QFL-A-101', Scale: '1:200', Revision: p.revision }),
  );
}

const first: Plan = {
  pontoon: 260,
  gangwayX: 236,
  piles: [
    [104, 0],
    [162, 0],
  ],
  kiosk: 'timber',
  fenders: false,
  revision: 'P01',
};
export const plans: readonly Plan[] = [
  first,
  { ...first, fenders: true, revision: 'P02' },
  {
    ...first,
    fenders: true,
    piles: [
      [104, 0],
      [166, 6],
    ],
    revision: 'P03',
  },
  {
    ...first,
    fenders: true,
    piles: [
      [104, 0],
      [166, 6],
    ],
    pontoon: 300,
    gangwayX: 262,
    revision: 'P04',
  },
  {
    ...first,
    fenders: true,
    piles: [
      [104, 0],
      [166, 6],
    ],
    pontoon: 300,
    gangwayX: 262,
    kiosk: 'steel',
    revision: 'P05',
  },
];

export interface Gangway {
  readonly bolt: 'M16' | 'M20';
  readonly bolts: number;
  readonly stiffeners: number;
  readonly revision: string;
}

export function drawGangway(g: Gangway): string {
  const radius = g.bolt === 'M16' ? 4 : 5;
  return sheet(
    'Gangway hinge detail, Quillmere ferry landing',
    420,
    297,
    el(
      'defs',
      {},
      el(
        'symbol',
        { id: 'bolt', overflow: 'visible' },
        el('circle', { r: radius, fill: '#ffffff', stroke: '#17212b', 'stroke-width': 0.5 }),
        el('polygon', {
          points: Array.from(
            { length: 6 },
            (_, i) =>
              `${(Math.cos((i * Math.PI) / 3) * radius * 0.7).toFixed(3)},${(Math.sin((i * Math.PI) / 3) * radius * 0.7).toFixed(3)}`,
          ).join(' '),
          fill: 'none',
          stroke: '#17212b',
          'stroke-width': 0.4,
        }),
      ),
    ),
    layer(
      'frame',
      {},
      el('rect', {
        id: 'frame',
        x: 8,
        y: 8,
        width: 404,
        height: 281,
        fill: '#ffffff',
        stroke: '#17212b',
        'stroke-width': 0.7,
      }),
    ),
    layer(
      'steel',
      {},
      el('rect', {
        id: 'base-plate',
        x: 60,
        y: 190,
        width: 260,
        height: 14,
        fill: '#cfd8dc',
        stroke: '#17212b',
        'stroke-width': 0.7,
      }),
      el('path', {
        id: 'hinge',
        d: 'M150 190 V130 A40 40 0 0 1 230 130 V190 Z',
        fill: '#e2e8ee',
        stroke: '#17212b',
        'stroke-width': 0.7,
      }),
      el('circle', { id: 'pin', cx: 190, cy: 130, r: 16, fill: '#ffffff', stroke: '#17212b', 'stroke-width': 0.9 }),
      ...Array.from({ length: g.stiffeners }, (_, i) =>
        el('path', {
          id: `stiffener-${i + 1}`,
          d: `M${86 + i * 32} 190 L${98 + i * 32} 160 L${110 + i * 32} 190 Z`,
          fill: '#b8c4cc',
          stroke: '#17212b',
          'stroke-width': 0.5,
        }),
      ),
    ),
    layer(
      'bolts',
      {},
      ...Array.from({ length: g.bolts }, (_, i) =>
        el('use', { id: `bolt-${i + 1}`, href: '#bolt', x: 72 + i * (236 / (g.bolts - 1)), y: 197 }),
      ),
    ),
    layer(
      'notes',
      { 'font-family': 'sans-serif', fill: '#17212b' },
      text({ id: 'bolt-note', x: 60, y: 226, 'font-size': 8 }, `${g.bolts} bolts ${g.bolt}, stainless`),
      text({ id: 'pin-note', x: 216, y: 96, 'font-size': 8 }, 'Pin Ø 32, greased'),
    ),
    titleBlock(282, 250, { Title: 'Gangway hinge', Number: 'QFL-S-204', Scale: '1:10', Revision: g.revision }),
  );
}

export const gangways: readonly Gangway[] = [
  { bolt: 'M16', bolts: 8, stiffeners: 2, revision: 'P01' },
  { bolt: 'M20', bolts: 8, stiffeners: 2, revision: 'P02' },
  { bolt: 'M20', bolts: 8, stiffeners: 7, revision: 'P03' },
];
