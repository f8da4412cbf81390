/** The wayfinding signs of the landing, as a board of sign faces. Lengths in millimetres. */
import { el, layer, sheet, text } from './svg.ts';

interface Sign {
  readonly id: string;
  readonly words: string;
  readonly second?: string;
  /** Direction of the arrow in degrees; undefined for none. */
  readonly arrow?: number;
  readonly x: number;
  readonly y: number;
}

export interface Board {
  readonly signs: readonly Sign[];
  readonly ground: string;
  readonly arrow: 'plain' | 'barbed';
  readonly lettering: number;
  readonly frame: number;
  readonly route: boolean;
  readonly tactile: boolean;
  readonly revision: string;
}

const WIDTH = 180;
const HEIGHT = 60;

const arrows = {
  plain: el('path', { d: 'M-14 0 H10 M0 -10 L10 0 L0 10', fill: 'none', stroke: '#ffffff', 'stroke-width': 4 }),
  barbed: el('path', { d: 'M-14 -3 H2 V-11 L16 0 L2 11 V3 H-14 Z', fill: '#ffffff' }),
};

function face(sign: Sign, board: Board): string {
  const left = sign.arrow === undefined ? 14 : 42;
  return el(
    'g',
    { id: sign.id, transform: `translate(${sign.x} ${sign.y})` },
    el('rect', {
      id: `${sign.id}-face`,
      width: WIDTH,
      height: HEIGHT,
      rx: 5,
      fill: board.ground,
      stroke: '#17212b',
      'stroke-width': board.frame,
    }),
    ...(sign.arrow === undefined
      ? []
      : [
          el('use', {
            id: `${sign.id}-arrow`,
            href: '#arrow',
            transform: `translate(22 ${HEIGHT / 2}) rotate(${sign.arrow})`,
          }),
        ]),
    text(
      {
        id: `${sign.id}-words`,
        x: left,
        y: sign.second ? 29 : 38,
        'font-size': board.lettering,
        fill: '#ffffff',
        'font-weight': 700,
      },
      sign.words,
    ),
    ...(sign.second
      ? [text({ id: `${sign.id}-second`, x: left, y: 48, 'font-size': 11, fill: '#ffffff' }, sign.second)]
      : []),
  );
}

const dots = (sign: Sign): string =>
  el(
    'g',
    { id: `${sign.id}-tactile` },
    ...Array.from({ length: 9 }, (_, i) =>
      el('circle', {
        id: `${sign.id}-dot-${i + 1}`,
        cx: sign.x + 142 + (i % 5) * 6,
        cy: sign.y + 52 + Math.floor(i / 5) * 4,
        r: 1.2,
        fill: '#f8fafc',
      }),
    ),
  );

export function drawBoard(board: Board): string {
  return sheet(
    'Wayfinding signs, Quillmere ferry landing',
    640,
    440,
    el('defs', {}, el('symbol', { id: 'arrow', overflow: 'visible' }, arrows[board.arrow])),
    layer(
      'ground',
      {},
      el('rect', { id: 'board', width: 640, height: 440, fill: '#eef2f4' }),
      text(
        { id: 'board-title', x: 30, y: 32, 'font-family': 'sans-serif', 'font-size': 14, fill: '#17212b' },
        'Quillmere ferry landing: wayfinding signs, 1:5',
      ),
      text(
        { id: 'board-revision', x: 540, y: 32, 'font-family': 'sans-serif', 'font-size': 12, fill: '#5b6773' },
        board.revision,
      ),
    ),
    ...(board.route
      ? [
          layer(
            'step-free route',
            {},
            el('path', {
              id: 'route',
              d: 'M30 412 C150 380 230 432 330 402 S520 372 610 408',
              fill: 'none',
              stroke: '#b45309',
              'stroke-width': 3,
              'stroke-dasharray': '8 5',
            }),
            el('circle', { id: 'route-start', cx: 30, cy: 412, r: 5, fill: '#b45309' }),
            el('circle', { id: 'route-end', cx: 610, cy: 408, r: 5, fill: '#b45309' }),
            text(
              { id: 'route-words', x: 380, y: 352, 'font-family': 'sans-serif', 'font-size': 12, fill: '#b45309' },
              'Step-free route, signs 1 to 5',
            ),
          ),
        ]
      : []),
    layer('signs', { 'font-family': 'sans-serif' }, ...board.signs.map((sign) => face(sign, board))),
    ...(board.tactile ? [layer('tactile', {}, ...board.signs.map(dots))] : []),
  );
}

const first: Board = {
  signs: [
    { id: 'ferry', words: 'Ferry', arrow: 0, x: 30, y: 60 },
    { id: 'tickets', words: 'Tickets', arrow: 180, x: 230, y: 60 },
    { id: 'waiting', words: 'Waiting room', x: 430, y: 60 },
  ],
  ground: '#3b6ea5',
  arrow: 'plain',
  lettering: 20,
  frame: 1,
  route: false,
  tactile: false,
  revision: 'P01',
};

const withMore: Board = {
  ...first,
  route: true,
  revision: 'P02',
  signs: [
    ...first.signs,
    { id: 'toilets', words: 'Toilets', arrow: -90, x: 30, y: 150 },
    { id: 'bicycles', words: 'Bicycles', second: 'Please dismount', arrow: 0, x: 230, y: 150 },
  ],
};
const darker: Board = { ...withMore, ground: '#12444f', revision: 'P03' };
const newArrow: Board = { ...darker, arrow: 'barbed', revision: 'P04' };
const approved: Board = {
  ...newArrow,
  tactile: true,
  revision: 'P05',
  signs: newArrow.signs.map((s) => {
    if (s.id === 'ferry') return { ...s, second: 'Thornholm, Eel Point' };
    if (s.id === 'waiting') return { ...s, words: 'Shelter' };
    return s;
  }),
};
const destroyed: Board = {
  ...approved,
  route: false,
  tactile: false,
  signs: approved.signs.filter((s) => s.id !== 'bicycles').map(({ second: _, ...s }) => s),
  revision: 'P06',
};
const lift: Board = {
  ...approved,
  revision: 'P07',
  signs: [
    ...approved.signs.map((s) => (s.id === 'toilets' ? { ...s, x: s.x + 400 } : s)),
    { id: 'lift', words: 'Lift', arrow: 90, x: 30, y: 240 },
  ],
};
const engraved: Board = { ...lift, frame: 1.6, lettering: 21, revision: 'C01' };

/** The stages of the board, by what the history says of them. */
export const boards = { first, withMore, darker, newArrow, approved, destroyed, lift, engraved };
