/**
 * The deck framing of the landing as a DXF drawing: beams, joists, cleats at every joint, piles, boards, marks and a
 * title block. Millimetres.
 */
import { DxfWriter, type Point } from '@ovrel/core';

export interface Framing {
  readonly revision: string;
  readonly date: string;
  /** Name of the layer of the beams. */
  readonly beamLayer: string;
  /** Legs of the angle cleats. */
  readonly cleat: number;
  readonly cleatHoles: 1 | 2;
  /** How far the landward bays stand from the reference line. */
  readonly landward: number;
  readonly joists: 'C16' | 'C24';
  /** A gate in the rail on the sea side. */
  readonly gate: boolean;
  readonly boards: boolean;
  /** Another program saved it: handles begin elsewhere, entities stand in another order. */
  readonly resaved?: boolean;
}

const BAYS = 6;
const BAY = 2400;
const SPAN = 4200;

export function drawFraming(f: Framing): string {
  const d = new DxfWriter({
    units: 4,
    firstHandle: f.resaved ? 0x4000 : 0x100,
    program: f.resaved ? 'resaved at the site office' : 'Quillmere drawing office',
  });
  d.lineType('CENTRE', [400, -100, 100, -100]).lineType('HIDDEN', [120, -80]);
  d.layer(f.beamLayer, { colour: '#1F4E79', weight: 0.5 })
    .layer('joists', { colour: '#7A5230', weight: 0.35 })
    .layer('cleats', { colour: '#5B6B2E', weight: 0.25 })
    .layer('piles', { colour: '#3B3B3B', weight: 0.35, lineType: 'HIDDEN' })
    .layer('axes', { colour: '#9A3B3B', weight: 0.18, lineType: 'CENTRE' })
    .layer('boards', { colour: '#B08A5A', weight: 0.18 })
    .layer('rail', { colour: '#6B2D5C', weight: 0.35 })
    .layer('marks', { colour: '#17212B', weight: 0.25 })
    .layer('frame', { colour: '#17212B', weight: 0.5 });
  d.block('cleat', [0, 0], (b) => {
    b.polyline(
      [
        [0, 0],
        [f.cleat, 0],
        [f.cleat, 10],
        [10, 10],
        [10, f.cleat],
        [0, f.cleat],
      ],
      true,
    );
    for (let i = 0; i < f.cleatHoles; i++)
      b.circle([f.cleat * (f.cleatHoles === 1 ? 0.55 : 0.4 + 0.35 * i), 5], 4.5).circle(
        [5, f.cleat * (f.cleatHoles === 1 ? 0.55 : 0.4 + 0.35 * i)],
        4.5,
      );
  });
  d.block('pile', [0, 0], (b) =>
    b.circle([0, 0], 203).circle([0, 0], 190).line([-260, 0], [260, 0]).line([0, -260], [0, 260]),
  );
  d.block('bolt', [0, 0], (b) =>
    b
      .polyline(
        [0, 60, 120, 180, 240, 300].map((a): Point => [
          18 * Math.cos((a * Math.PI) / 180),
          18 * Math.sin((a * Math.PI) / 180),
        ]),
        true,
      )
      .circle([0, 0], 10),
  );
  const acts: (() => void)[] = [];
  for (let bay = 0; bay <= BAYS; bay++) {
    const x = bay * BAY;
    const shift = bay < 2 ? f.landward : 0;
    acts.push(() =>
      d
        .line([x + shift, -700], [x + shift, SPAN + 700], { layer: 'axes' })
        .circle([x + shift, SPAN + 950], 250, { layer: 'axes' })
        .text([x + shift, SPAN + 870], 180, String(bay + 1), { layer: 'marks', middle: true }),
    );
    acts.push(() =>
      d.polyline(
        [
          [x + shift - 60, 0],
          [x + shift + 60, 0],
          [x + shift + 60, SPAN],
          [x + shift - 60, SPAN],
        ],
        true,
        { layer: f.beamLayer },
      ),
    );
    for (const y of [300, SPAN - 300]) {
      acts.push(() => d.placement('pile', [x + shift, y], { layer: 'piles' }));
      for (const [dx, dy] of [
        [-90, -90],
        [90, -90],
        [90, 90],
        [-90, 90],
      ] as const)
        acts.push(() => d.placement('bolt', [x + shift + dx * 1.6, y + dy * 1.6], { layer: 'piles' }));
    }
    if (bay === BAYS) continue;
    for (let k = 0; k < 4; k++) {
      const y = 600 + k * 1000;
      const left = x + shift + 60;
      const right = x + BAY + (bay + 1 < 2 ? f.landward : 0) - 60;
      acts.push(() =>
        d.polyline(
          [
            [left, y - 22],
            [right, y - 22],
            [right, y + 22],
            [left, y + 22],
          ],
          true,
          { layer: 'joists' },
        ),
      );
      acts.push(() =>
        d
          .placement('cleat', [left, y + 22], { layer: 'cleats' })
          .placement('cleat', [right, y - 22], { layer: 'cleats', turn: 180 }),
      );
      if (k % 2 === 0)
        acts.push(() =>
          d.text([left + 300, y + 60], 110, `J${bay + 1}.${k + 1}  47 × 200 ${f.joists}`, { layer: 'marks' }),
        );
    }
  }
  if (f.boards)
    acts.push(() =>
      d.hatch(
        [
          [BAY * 2 + 100, 100],
          [BAY * 4 - 100, 100],
          [BAY * 4 - 100, SPAN - 100],
          [BAY * 2 + 100, SPAN - 100],
        ],
        { angle: 90, distance: 145 },
        { layer: 'boards' },
      ),
    );
  // The rail on the sea side, with posts at every bay and an opening for the gate.
  const opening = f.gate ? ([BAY * 3 + 300, BAY * 3 + 1500] as const) : undefined;
  for (const [from, to] of opening
    ? ([
        [0, opening[0]],
        [opening[1], BAY * BAYS],
      ] as const)
    : ([[0, BAY * BAYS]] as const))
    acts.push(() =>
      d.line([from, -250], [to, -250], { layer: 'rail' }).line([from, -290], [to, -290], { layer: 'rail' }),
    );
  if (opening)
    acts.push(() =>
      d
        .line([opening[0], -250], [opening[0], -1450], { layer: 'rail' })
        .arc([opening[0], -250], 1200, 270, 360, { layer: 'rail' })
        .text([opening[0] + 150, -700], 140, 'Gate 1200, opens seaward', { layer: 'marks' }),
    );
  acts.push(() =>
    d.paragraph(
      [0, -1900],
      150,
      6000,
      'All steel galvanised after fabrication.\nCleats: two M8 coach screws each leg.\nJoists bear 60 mm at least.',
      { layer: 'marks' },
    ),
  );
  acts.push(() =>
    d.polyline(
      [
        [-1500, -3400],
        [BAY * BAYS + 1500, -3400],
        [BAY * BAYS + 1500, SPAN + 1700],
        [-1500, SPAN + 1700],
      ],
      true,
      { layer: 'frame' },
    ),
  );
  d.block('title', [0, 0], (b) =>
    b
      .polyline(
        [
          [0, 0],
          [6000, 0],
          [6000, 1200],
          [0, 1200],
        ],
        true,
      )
      .line([0, 600], [6000, 600])
      .line([4200, 0], [4200, 1200])
      .text([120, 900], 130, 'Quillmere ferry landing')
      .text([120, 720], 100, 'Rebuilding of the landing stage'),
  );
  const at: Point = [BAY * BAYS - 4500, -3400];
  acts.push(() =>
    d.placement('title', at, {
      layer: 'frame',
      attributes: [
        { tag: 'TITLE', at: [at[0] + 120, at[1] + 220], height: 160, words: 'Deck framing, plan' },
        { tag: 'REVISION', at: [at[0] + 4350, at[1] + 220], height: 220, words: f.revision },
        { tag: 'DATE', at: [at[0] + 4350, at[1] + 820], height: 130, words: f.date },
      ],
    }),
  );
  for (const act of f.resaved ? acts.reverse() : acts) act();
  return d.finish();
}

const first: Framing = {
  revision: 'P01',
  date: '2026-10-06',
  beamLayer: 'beams',
  cleat: 90,
  cleatHoles: 1,
  landward: 0,
  joists: 'C16',
  gate: false,
  boards: true,
};
const cleats: Framing = { ...first, cleat: 120, cleatHoles: 2 };
const moved: Framing = { ...cleats, landward: -350, revision: 'P02', date: '2026-10-15' };
const renamed: Framing = { ...moved, beamLayer: 'primary steel' };
const gated: Framing = { ...renamed, gate: true, revision: 'P03', date: '2026-10-24' };
const resaved: Framing = { ...gated, resaved: true };
const graded: Framing = { ...resaved, joists: 'C24', revision: 'C01', date: '2026-11-04' };

/** One edit a version, each of a kind that touches many parts. */
export const framings: readonly { readonly note: string; readonly framing: Framing }[] = [
  { note: 'Framing as agreed with the steel fabricator', framing: first },
  { note: 'Larger cleats with two screws each leg', framing: cleats },
  { note: 'Landward bays moved clear of the old quay wall', framing: moved },
  { note: 'Layer names as in the office standard', framing: renamed },
  { note: 'Gate in the sea rail for the tender boat', framing: gated },
  { note: 'Opened and saved at the site office', framing: resaved },
  { note: 'Joists in C24 after the timber merchant’s offer', framing: graded },
];
