import { DxfWriter, type DxfEntities } from '../../../formats/dxf/write.ts';
import { compared, sentences } from '../../../testing.ts';
import { comparisonSchema, type Comparison } from '../../../contract/comparison.ts';
import { replacement } from './texts.ts';

interface Plan {
  units?: number;
  firstHandle?: number;
  cleat?: (b: DxfEntities) => void;
  wallLayer?: string;
  wallColour?: string;
  wallsOff?: boolean;
  /** What a coordinate becomes, for the landward half and for all. */
  west?: (x: number, y: number) => readonly [number, number];
  all?: (x: number, y: number) => readonly [number, number];
  post?: string;
  mark?: (n: number) => string;
  more?: (d: DxfWriter) => void;
  without?: (n: number) => boolean;
  reversed?: boolean;
  scale?: number;
}

/** Thirty wall outlines, twelve cleats, twelve bolts and twelve marks, in millimetres. */
function draw(p: Plan = {}): string {
  const d = new DxfWriter({ units: p.units ?? 4, ...(p.firstHandle ? { firstHandle: p.firstHandle } : {}) });
  const walls = p.wallLayer ?? 'walls';
  const s = p.scale ?? 1;
  d.layer(walls, { colour: p.wallColour ?? '#aa0000', off: p.wallsOff ?? false })
    .layer('fixings', { colour: '#0000aa' })
    .layer('marks');
  d.block(
    'cleat',
    [0, 0],
    p.cleat ??
      ((b) =>
        b.polyline(
          [
            [0, 0],
            [90, 0],
            [90, 90],
          ],
          true,
        )),
  )
    .block('angle', [0, 0], (b) => b.line([0, 0], [50, 0]).line([0, 0], [0, 50]))
    .block('bolt', [0, 0], (b) => b.circle([0, 0], 8));
  const at = (x: number, y: number): readonly [number, number] => {
    const [u, v] = p.west && x < 3000 ? p.west(x, y) : [x, y];
    return p.all ? p.all(u, v) : [u, v];
  };
  const acts: (() => void)[] = [];
  for (let n = 0; n < 30; n++) {
    const x = (n % 6) * 1000;
    const y = Math.floor(n / 6) * 1200;
    if (p.without?.(n)) continue;
    acts.push(() =>
      d.polyline([at(x, y), at(x + 400 + n * 7, y), at(x + 400 + n * 7, y + 300 + n * 5), at(x, y + 200)], true, {
        layer: walls,
      }),
    );
  }
  for (let n = 0; n < 12; n++) {
    const x = (n % 6) * 1000 + 50;
    const y = Math.floor(n / 6) * 1200 + 700;
    acts.push(() =>
      d
        .placement(p.post ?? 'cleat', at(x, y), { layer: 'fixings', scale: s })
        .placement('bolt', at(x + 20, y + 60), { layer: 'fixings', scale: s })
        .text(at(x + 100, y), 60 * s, p.mark?.(n) ?? `M${n} oak C16`, { layer: 'marks' }),
    );
  }
  for (const act of p.reversed ? acts.reverse() : acts) act();
  p.more?.(d);
  return d.finish();
}

const between = async (a: string, b: string, options = {}): Promise<Comparison> =>
  comparisonSchema.parse((await compared(a, b, 'x.dxf', options)).comparison);
const said = async (a: Plan, b: Plan): Promise<string[]> => sentences(await compared(draw(a), draw(b), 'x.dxf'));
const apart =
  (n: number) =>
  (x: number, y: number): readonly [number, number] => [x + n, y];

describe('one edit is one cause', () => {
  test('nothing', async () => expect(await said({}, {})).toEqual([]));

  test('a block that changed, with its placements', async () => {
    const c = await between(
      draw(),
      draw({
        cleat: (b) =>
          b
            .polyline(
              [
                [0, 0],
                [120, 0],
                [120, 90],
              ],
              true,
            )
            .circle([10, 10], 3),
      }),
    );
    expect(c.causes).toEqual([
      expect.objectContaining({
        kind: 'definition',
        sentence: 'Block “cleat” changed: 12 placements (1 shape changed, 1 added)',
        parts: 12,
      }),
    ]);
    expect(c.causes[0]!.changes).toEqual(c.changes.map((x) => x.id));
    expect(c.changes).toHaveLength(12);
    expect(c.summary).toBe(c.causes[0]!.sentence);
  });

  test('a block in a block: the inner one is named', async () => {
    const nested = (r: number): string => {
      const d = new DxfWriter()
        .block('bolt', [0, 0], (b) => b.circle([0, 0], r))
        .block('plate', [0, 0], (b) => b.placement('bolt', [10, 0]).placement('bolt', [90, 0]));
      for (let n = 0; n < 5; n++) d.placement('plate', [n * 200, 0]);
      return d.finish();
    };
    expect((await between(nested(4), nested(6))).causes.map((c) => c.sentence)).toEqual([
      'Block “bolt” changed: 5 placements (1 shape changed)',
    ]);
  });

  test('one component swapped for another', async () =>
    expect(await said({}, { post: 'angle' })).toEqual(['Block “cleat” replaced by “angle”: 12 placements']));

  test('parts that moved together, in the drawing’s unit and with y upwards', async () => {
    const c = await between(draw(), draw({ west: (x, y) => [x + 120, y + 40] }));
    expect(c.causes.map((k) => k.sentence)).toEqual(['33 parts moved together by (120, 40) mm']);
    expect(c.counts).toMatchObject({ moved: 33, changed: 0 });
  });

  test('parts that turned together, with the angle as the drawing is read and the point', async () => {
    const turn = (x: number, y: number): readonly [number, number] => [500 - (y - 500), 500 + (x - 500)];
    const only = (west?: Plan['west']): string => {
      const d = new DxfWriter();
      for (let n = 0; n < 40; n++) {
        const x = (n % 8) * 900;
        const y = Math.floor(n / 8) * 700;
        const at = (u: number, v: number) => (west && x < 1800 ? west(u, v) : ([u, v] as const));
        d.polyline([at(x, y), at(x + 100 + n * 11, y), at(x + 60, y + 90 + n * 3)], true).circle(
          at(x + 50, y + 400),
          30,
        );
      }
      return d.finish();
    };
    expect(
      (await between(only(), only(turn))).causes.map((c) => c.sentence).filter((x) => !x.startsWith('Drawing order')),
    ).toEqual(['20 parts turned together by 90° about (500, 500)']);
  });

  test('a stretch: what moved whole and what was drawn longer', async () => {
    const c = await said({}, { all: (x, y) => [x > 4450 ? x + 250 : x, y] });
    expect(c).toHaveLength(1);
    expect(c[0]).toMatch(/^\d+ parts moved together by \(250, 0\) mm, and \d parts stretched with them$/);
  });

  test('a layer renamed', async () =>
    expect(await said({}, { wallLayer: 'walls-new' })).toEqual(['Layer “walls” renamed “walls-new”, 30 parts']));
  test('a layer recoloured', async () =>
    expect(await said({}, { wallColour: '#00aa00' })).toEqual(['Layer “walls”: colour #aa0000 → #00aa00, 30 parts']));
  test('a layer switched off', async () =>
    expect(await said({}, { wallsOff: true })).toEqual(['Layer “walls” hidden, 30 parts']));
  test('many layers made to look alike are one act', async () => {
    const plan = (colour?: string): string => {
      const d = new DxfWriter();
      for (const [n, own] of ['#111111', '#222222', '#333333', '#444444'].entries())
        d.layer(`l${n}`, { colour: colour ?? own }).line([0, n * 10], [90, n * 10], { layer: `l${n}` });
      return d.finish();
    };
    expect((await between(plan(), plan('#aa0000'))).causes.map((c) => c.sentence)).toEqual([
      '4 layers: colour now #aa0000, 4 parts',
    ]);
  });

  test('words replaced in many texts', async () =>
    expect(await said({}, { mark: (n) => `M${n} oak C24` })).toEqual(['“C16” replaced by “C24” in 12 texts']));
  test('one text', async () =>
    expect(await said({}, { mark: (n) => `M${n} oak ${n === 4 ? 'C24' : 'C16'}` })).toEqual([
      'Text “M4 oak C16” now “M4 oak C24”',
    ]));
  test('everything renumbered', async () =>
    expect(await said({}, { firstHandle: 0x5000 })).toEqual(['Everything renumbered, nothing else']));
  test('another order', async () =>
    expect((await said({}, { reversed: true })).filter((s) => !s.startsWith('Everything'))).toEqual([
      expect.stringMatching(/^Drawing order changed: \d+ parts stand elsewhere in it$/),
    ]));
  test('parts that went', async () =>
    expect((await said({}, { without: (n) => n % 5 === 2 })).slice(0, 1)).toEqual([
      '6 polylines removed on layer “walls”',
    ]));
  test('copies that came', async () =>
    expect(
      await said(
        {},
        { more: (d) => [0, 1, 2, 3].forEach((n) => d.placement('bolt', [n * 50, 7000], { layer: 'fixings' })) },
      ),
    ).toEqual(['4 placements of “bolt” added']));
  test('a layer with what is on it', async () =>
    expect(
      await said(
        {},
        {
          more: (d) =>
            d.layer('gate').line([0, 0], [500, 0], { layer: 'gate' }).arc([0, 0], 500, 0, 90, { layer: 'gate' }),
        },
      ),
    ).toEqual(['Layer “gate” added with 2 parts']));

  test('another origin', async () => {
    const c = await between(draw(), draw({ all: (x, y) => [x + 100_000, y - 5000] }));
    expect(c.causes.map((k) => k.sentence)).toEqual(['Everything moved by (100000, −5000) mm, 66 parts']);
    expect(c.counts.moved).toBe(66);
  });

  test('all but the frame moved: that is not everything', async () => {
    const frame = (d: DxfWriter): void =>
      void d
        .polyline(
          [
            [-500, -500],
            [9000, -500],
            [9000, 9000],
            [-500, 9000],
          ],
          true,
        )
        .text([0, -300], 90, 'Sheet 1')
        .line([-500, 0], [9000, 0]);
    expect(await said({ more: frame }, { more: frame, all: (x, y) => [x + 150, y] })).toEqual([
      '66 parts moved together by (150, 0) mm',
    ]);
  });

  test('units converted, nothing else: no part has changed', async () => {
    const c = await between(draw(), draw({ units: 1, all: (x, y) => [x / 25.4, y / 25.4], scale: 1 / 25.4 }));
    expect(c.causes.map((k) => k.sentence)).toEqual(['Drawing units mm → in, with every number converted']);
    expect(c.changes).toEqual([]);
  });

  test('the unit alone: everything is another size', async () =>
    expect(await said({}, { units: 1 })).toEqual([
      'Drawing units mm → in; the numbers stay, so everything is 25.4 times as large',
    ]));

  test('saved with fewer decimals: the same drawing', async () => {
    const fine = (x: number, y: number): readonly [number, number] => [
      x + 0.3127 * Math.sin(x),
      y + 0.4421 * Math.cos(y),
    ];
    const coarse = (x: number, y: number): readonly [number, number] => [
      Math.round(x * 10) / 10,
      Math.round(y * 10) / 10,
    ];
    const c = await between(draw({ all: fine }), draw({ all: (x, y) => coarse(...fine(x, y)) }));
    expect(c.changes).toEqual([]);
    expect(c.tolerance).toBeGreaterThan(0.05);
  });

  test('a tolerance can be given', async () => {
    const shifted = draw({ west: apart(0.4) });
    expect((await between(draw(), shifted)).counts.moved).toBe(33);
    expect((await between(draw(), shifted, { tolerance: 1 })).counts.moved).toBe(0);
  });

  test('a block taken apart, and put together again', async () => {
    const loose = (d: DxfWriter): void =>
      void d
        .polyline(
          [
            [8000, 0],
            [8090, 0],
            [8090, 90],
          ],
          true,
          { layer: 'fixings' },
        )
        .circle([8000, 300], 8, { layer: 'fixings' });
    const placed = (d: DxfWriter): void =>
      void d.placement('cleat', [8000, 0], { layer: 'fixings' }).placement('bolt', [8000, 300], { layer: 'fixings' });
    expect((await said({ more: placed }, { more: loose })).sort()).toEqual([
      'Block “bolt” taken apart: 1 placement into 1 part',
      'Block “cleat” taken apart: 1 placement into 1 part',
    ]);
    expect((await said({ more: loose }, { more: placed })).sort()).toEqual([
      '1 part made into 1 placement of block “bolt”',
      '1 part made into 1 placement of block “cleat”',
    ]);
  });

  test('lines split and joined', async () => {
    const whole = (d: DxfWriter): void => void d.line([0, 9000], [900, 9300]).line([0, 9500], [600, 9500]);
    const halves = (d: DxfWriter): void =>
      void d
        .line([0, 9000], [300, 9100])
        .line([900, 9300], [300, 9100])
        .line([0, 9500], [200, 9500])
        .line([200, 9500], [600, 9500]);
    expect(await said({ more: whole }, { more: halves })).toEqual(['2 lines split into 4, nothing else']);
    expect(await said({ more: halves }, { more: whole })).toEqual(['4 lines joined into 2, nothing else']);
  });

  test('arcs split and joined, and a circle cut into arcs', async () => {
    const whole = (d: DxfWriter): void => void d.arc([0, 9000], 400, 300, 80);
    const halves = (d: DxfWriter): void => void d.arc([0, 9000], 400, 300, 20).arc([0, 9000], 400, 20, 80);
    expect(await said({ more: whole }, { more: halves })).toEqual(['1 arc split into 2, nothing else']);
    expect(await said({ more: halves }, { more: whole })).toEqual(['2 arcs joined into 1, nothing else']);
    expect(
      await said(
        { more: (d) => d.circle([0, 9000], 300) },
        { more: (d) => d.arc([0, 9000], 300, 90, 200).arc([0, 9000], 300, 200, 90) },
      ),
    ).toEqual(['1 arc split into 2, nothing else']);
    // What is missing was not split off.
    expect(
      (await said({ more: whole }, { more: (d) => d.arc([0, 9000], 400, 300, 20).arc([0, 9000], 400, 30, 80) })).join(),
    ).not.toContain('split');
  });

  test('a line that got shorter was not split', async () =>
    expect(
      await said({ more: (d) => d.line([0, 9000], [900, 9000]) }, { more: (d) => d.line([0, 9000], [300, 9000]) }),
    ).toEqual(['One line stretched by (−600, 0) mm']));

  test('outlines turned round and begun elsewhere are the same', async () => {
    const ring =
      (points: readonly (readonly [number, number])[]) =>
      (d: DxfWriter): void =>
        void d.polyline(points, true);
    expect(
      (
        await between(
          draw({
            more: ring([
              [0, 9000],
              [500, 9000],
              [700, 9400],
              [0, 9300],
            ]),
          }),
          draw({
            more: ring([
              [700, 9400],
              [500, 9000],
              [0, 9000],
              [0, 9300],
            ]),
          }),
        )
      ).changes,
    ).toEqual([]);
  });

  test('attributes of one title block are one edit', async () => {
    const title =
      (revision: string, date: string) =>
      (d: DxfWriter): void =>
        void d
          .block('title', [0, 0], (b) => b.line([0, 0], [900, 0]))
          .placement('title', [0, -3000], {
            attributes: [
              { tag: 'REVISION', at: [10, -2900], height: 50, words: revision },
              { tag: 'DATE', at: [500, -2900], height: 50, words: date },
            ],
          });
    expect(await said({ more: title('P01', '2 May') }, { more: title('P02', '9 May') })).toEqual([
      'Title: REVISION “P01” → “P02”, DATE “2 May” → “9 May”',
    ]);
  });
});

describe('what parts are painted with', () => {
  const sky = (stop: string, id = 'sky', fill = id): string =>
    `<svg viewBox="0 0 300 100"><linearGradient id="${id}"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="${stop}"/></linearGradient><linearGradient id="sea"><stop stop-color="#036"/></linearGradient>${[0, 1, 2].map((n) => `<rect id="r${n}" x="${n * 100}" width="80" height="90" fill="url(#${fill})"/>`).join('')}</svg>`;
  const causes = async (a: string, b: string): Promise<string[]> => sentences(await compared(a, b, 'x.svg'));

  test('a gradient that changed', async () =>
    expect(await causes(sky('#06c'), sky('#c60'))).toEqual(['Gradient “sky” changed: 3 parts']));
  test('another gradient', async () =>
    expect(await causes(sky('#06c'), sky('#06c', 'sky', 'sea'))).toEqual([
      'Gradient “sky” replaced by “sea”: 3 parts',
    ]));
  test('another id for the same is no change', async () =>
    expect(await causes(sky('#06c'), sky('#06c', 'himmel'))).toEqual([]));
});

describe('several edits at once', () => {
  let causes: Comparison['causes'];
  beforeAll(async () => {
    const compared = await between(
      draw(),
      draw({
        cleat: (b) => b.circle([0, 0], 70),
        west: apart(-350),
        wallLayer: 'timber',
        mark: (n) => `M${n} oak C24`,
        firstHandle: 0x7000,
        reversed: true,
      }),
    );
    causes = compared.causes;
  });

  test('each is found, though everything was renumbered and stands in another order', async () => {
    expect(causes.map((c) => c.sentence).filter((s) => !s.startsWith('Drawing order'))).toEqual(
      [
        '33 parts moved together by (−350, 0) mm',
        '“C16” replaced by “C24” in 12 texts',
        'Block “cleat” changed: 12 placements (1 shape changed)',
        'Layer “walls” renamed “timber”, 30 parts',
        'Everything renumbered',
      ].sort((p, q) => causes.findIndex((c) => c.sentence === p) - causes.findIndex((c) => c.sentence === q)),
    );
  });

  test('heaviest first, with ids in that order', async () => {
    expect(causes.map((c) => c.id)).toEqual(causes.map((_, i) => `k${i + 1}`));
    for (let i = 1; i < causes.length; i++) expect(causes[i]!.weight).toBeLessThanOrEqual(causes[i - 1]!.weight);
  });
});

test('a hundred equal bolts pair without crossing', async () => {
  const bolts = (dx: number, gone: number): string => {
    const d = new DxfWriter({ firstHandle: dx ? 0x9000 : 0x100 }).block('bolt', [0, 0], (b) => b.circle([0, 0], 8));
    for (let n = 0; n < 100; n++) if (n !== gone) d.placement('bolt', [(n % 10) * 50 + dx, Math.floor(n / 10) * 50]);
    return d.line([-100, -100], [900, -100]).line([-100, -100], [-100, 900]).text([0, -300], 40, 'Bolts').finish();
  };
  // By one spacing: every bolt lands where its neighbour was.
  const c = await between(bolts(0, -1), bolts(0, 55));
  expect(c.counts).toMatchObject({ removed: 1, moved: 0, added: 0 });
  expect(c.causes[0]!.sentence).toBe('Placement “bolt” removed');
});

test.each([
  ['Pier 3, oak', 'Pier 4, oak', '3,', '4,'],
  ['deck', 'deck plan', '', 'plan'],
  ['a b c', 'a c', 'b', ''],
  ['x', 'y', 'x', 'y'],
])('“%s” → “%s” replaces “%s” by “%s”', async (from, to, out, put) =>
  expect(replacement(from, to)).toEqual([out, put]),
);
