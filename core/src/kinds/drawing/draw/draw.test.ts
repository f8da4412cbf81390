import { open } from '../../content.ts';
import { designOf as read } from '../../../testing.ts';
import { DxfWriter } from '../../../formats/dxf/write.ts';
import type { Design } from '../../../model/design.ts';
import { packScene, unpackScene } from './packed.ts';
import { sceneOf } from './scene.ts';
import { sceneHeadSchema } from './scene-head.ts';
import { svgOf } from './svg.ts';

const designOf = (d: DxfWriter): Design => read(d.finish(), 'x.dxf');
const deck = (): DxfWriter =>
  new DxfWriter()
    .layer('walls', { colour: '#aa0000' })
    .layer('gone', { colour: '#00aa00', off: true })
    .block('bolt', [0, 0], (b) =>
      b.circle([0, 0], 5).line([-5, 0], [5, 0], { colour: 'by block' }).line([0, -5], [0, 5], { colour: '#0000ff' }),
    );

describe('as SVG', () => {
  test('reads back as the same lines, in the colours of layer, block and their own', () => {
    const svg = svgOf(
      designOf(
        deck()
          .line([0, 0], [100, 50], { layer: 'walls' })
          .placement('bolt', [40, 20], { layer: 'walls', colour: '#123456' })
          .text([0, 60], 7, 'Deck & <rail>', { layer: 'walls' }),
      ),
      0,
    );
    const back = read(svg, 'x.svg');
    expect(back.parts.map((p) => [p.kind, p.props['stroke'] === 'none' ? p.props['fill'] : p.props['stroke']])).toEqual(
      [
        ['path', '#aa0000'],
        ['path', '#aa0000'],
        ['path', '#123456'],
        ['path', '#0000ff'],
        ['text', '#aa0000'],
      ],
    );
    expect(back.parts[0]?.box).toEqual([0, -50, 100, 0]);
    const circle = back.parts[1]!.box!;
    [35, -25, 45, -15].forEach((v, k) => expect(circle[k]).toBeCloseTo(v, 6));
    expect(back.parts[4]?.lettering?.runs[0]?.text).toBe('Deck & <rail>');
  });

  test('what the file hides is not drawn', () =>
    expect(svgOf(designOf(deck().line([0, 0], [9, 9], { layer: 'gone' })), 0)).not.toContain('<path'));

  test('a hatch by lines fills its area and leaves islands free', () => {
    const design = designOf(
      deck().hatch(
        [
          [0, 0],
          [100, 0],
          [100, 100],
          [0, 100],
        ],
        { angle: 0, distance: 10 },
      ),
    );
    const lines = read(svgOf(design, 0), 'x.svg').parts[0]!;
    expect(lines.subpaths).toBe(10);
    expect(lines.box![2] - lines.box![0]).toBeCloseTo(100, 6);
  });
});

describe('as a scene', () => {
  const design = designOf(
    deck()
      .line([1_000_000, 2_000_000], [1_000_100, 2_000_050], { layer: 'walls' })
      .placement('bolt', [1_000_040, 2_000_020], { layer: 'walls' })
      .hatch(
        [
          [1_000_000, 2_000_000],
          [1_000_010, 2_000_000],
          [1_000_000, 2_000_010],
        ],
        undefined,
        { colour: '#00ff00' },
      )
      .text([1_000_000, 2_000_000], 3, 'Here'),
  );
  const scene = sceneOf(design, 0);

  test('has every segment, with the part that it belongs to', () => {
    expect(scene.head.segments).toBe(1 + 64 + 2);
    expect([...scene.part]).toEqual([0, ...Array.from({ length: 66 }, () => 1)]);
    expect(scene.head.triangles).toBe(1);
    expect(scene.head.words).toEqual([expect.objectContaining({ text: 'Here', part: 3 })]);
  });

  test('keeps single precision where coordinates are large', () => {
    const [ox = 0, oy = 0] = scene.head.origin;
    expect(scene.ends[0]! + ox).toBeCloseTo(1_000_000, 3);
    expect(scene.ends[3]! + oy).toBeCloseTo(-2_000_050, 3);
  });

  test('packs and unpacks to the same', () => {
    const back = unpackScene(packScene(scene));
    expect(sceneHeadSchema.parse(back.head)).toEqual(scene.head);
    for (const name of ['ends', 'along', 'style', 'part', 'corners', 'triangleStyle', 'trianglePart'] as const)
      expect([...back[name]]).toEqual([...scene[name]]);
  });

  test('holes in filled areas stay open', () => {
    const svg =
      '<svg viewBox="0 0 100 100"><path d="M0 0h90v90h-90z M30 30h30v30h-30z" fill="#111" fill-rule="evenodd"/></svg>';
    const { corners } = sceneOf(read(svg, 'x.svg'), 0);
    let area = 0;
    for (let i = 0; i < corners.length; i += 6)
      area +=
        Math.abs(
          (corners[i + 2]! - corners[i]!) * (corners[i + 5]! - corners[i + 1]!) -
            (corners[i + 4]! - corners[i]!) * (corners[i + 3]! - corners[i + 1]!),
        ) / 2;
    expect(area).toBeCloseTo(90 * 90 - 30 * 30, 3);
  });
});

describe('windows onto the model', () => {
  const base = designOf(
    deck()
      .line([0, 0], [1000, 0], { layer: 'walls' })
      .line([0, 500], [1000, 500], { layer: 'walls' })
      .text([500, 10], 20, 'Inside')
      .text([5000, 10], 20, 'Outside'),
  );
  // Half as large, and only from x = 100 to 300 of the sheet.
  const window = { matrix: [0.5, 0, 0, 0.5, 0, 0] as const, clip: [100, -100, 300, 100] as const };
  const sheet: Design = {
    ...base,
    pages: [...base.pages, { name: 'Sheet', box: [0, -300, 400, 0] }],
    parts: [
      ...base.parts,
      { ...base.parts[0]!, kind: 'viewport', page: 1, subpaths: 0, window, props: { colour: '#000000' } },
    ],
  };

  test('a scene has the lines cut at its border, and belonging to it', () => {
    const { head, ends, part } = sceneOf(sheet, 1);
    const [ox = 0, oy = 0] = head.origin;
    expect(head.segments).toBe(1);
    expect([...ends].map((v, k) => v + (k % 2 ? oy : ox))).toEqual([100, 0, 300, 0]);
    expect(part[0]).toBe(4);
    expect(head.words.map((w) => w.text)).toEqual(['Inside']);
  });

  test('SVG clips it', async () => {
    const svg = svgOf(sheet, 1);
    expect(svg).toMatch(/<clipPath id="w1">[^]*<g clip-path="url\(#w1\)">[^]*M0 0L500 0[^]*<\/g>\n<\/g>/);
    expect((await open(new TextEncoder().encode(svg), 'x.svg')).kinds[0]).toBe('drawing');
  });
});
