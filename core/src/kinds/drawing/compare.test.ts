import { comparisonSchema, type Change, type Comparison } from '../../contract/comparison.ts';
import { compared, sentences } from '../../testing.ts';

const svg = (inner: string): string => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000">${inner}</svg>`;
const between = async (a: string, b: string): Promise<Comparison> =>
  comparisonSchema.parse((await compared(svg(a), svg(b), 'x.svg')).comparison);
const counts = (c: Comparison): string =>
  `+${c.counts.added} -${c.counts.removed} ~${c.counts.changed} >${c.counts.moved} =${c.counts.unchanged}`;
const single = (c: Comparison): Change => {
  expect(c.changes).toHaveLength(1);
  return c.changes[0]!;
};

const bolts = (n: number, y = 500, id: (i: number) => string = (i) => ` id="bolt${i}"`): string =>
  Array.from(
    { length: n },
    (_, i) => `<circle${id(i)} cx="${20 + i * 9}" cy="${y}" r="3" fill="#fff" stroke="#000"/>`,
  ).join('');
const scenery = Array.from(
  { length: 30 },
  (_, i) =>
    `<path id="s${i}" d="M${i * 30} ${100 + (i % 7) * 13} l${20 + i} ${10 + i * 2} l${-5 - i} 17 z" fill="#${(0x111111 * ((i % 14) + 1)).toString(16)}"/>`,
).join('');
const withoutIds = (text: string): string => text.replace(/ id="[^"]*"/g, '');
const renumbered = (text: string): string => {
  let n = 900;
  return text.replace(/ id="[^"]*"/g, () => ` id="n${n++}"`);
};

describe('what changed of a part', () => {
  const a =
    '<rect id="r" x="100" y="100" width="40" height="20" fill="red"/><text id="t" x="300" y="300" font-size="20">Pier 1</text>';

  test('nothing', async () => expect(counts(await between(a, a))).toBe('+0 -0 ~0 >0 =2'));

  test('placement alone is a move, with its distance', async () => {
    const change = single(await between(a, a.replace('x="100"', 'x="130"')));
    expect(change).toMatchObject({
      kind: 'moved',
      boxA: [100, 100, 140, 120],
      boxB: [130, 100, 170, 120],
      what: [{ aspect: 'placement', from: '(100, 100)', to: '(130, 100), by (30, 0)' }],
    });
  });

  test('a turn is a placement too', async () => {
    const change = single(await between(a, a.replace('<rect ', '<rect transform="rotate(30 120 110)" ')));
    expect(change.kind).toBe('moved');
    expect(change.what[0]!.to).toMatch(/turned 30°/);
  });

  test('geometry', async () =>
    expect(single(await between(a, a.replace('width="40"', 'width="55"')))).toMatchObject({
      kind: 'changed',
      what: [expect.objectContaining({ aspect: 'geometry', from: '40 × 20', to: '55 × 20' })],
    }));

  test('style, said by property', async () =>
    expect(single(await between(a, a.replace('red', '#00f'))).what).toEqual([
      { aspect: 'style', property: 'fill', from: '#ff0000', to: '#0000ff' },
    ]));

  test('text', async () =>
    expect(single(await between(a, a.replace('Pier 1', 'Pier 2'))).what).toEqual([
      { aspect: 'text', from: 'Pier 1', to: 'Pier 2' },
    ]));

  test('layer', async () => {
    const layered = (rect: string, rest: string): string =>
      `<g data-name="Walls">${rect}</g><g data-name="Doors">${rest}</g>`;
    const part = '<rect id="r" x="100" y="100" width="40" height="20"/>';
    const other = '<rect id="q" x="1" y="1" width="4" height="4"/>';
    const third = '<rect id="w" x="9" y="9" width="4" height="4"/>';
    expect(single(await between(layered(part + third, other), layered(third, other + part))).what).toEqual([
      { aspect: 'layer', from: 'Walls', to: 'Doors' },
    ]);
  });

  test('a symbol that changed shows at each placement', async () => {
    const drawing = (r: number): string =>
      `<symbol id="b" overflow="visible"><circle r="${r}"/></symbol><use id="u1" href="#b" x="10" y="10"/><use id="u2" href="#b" x="50" y="10"/>`;
    const c = await between(drawing(3), drawing(5));
    expect(counts(c)).toBe('+0 -0 ~2 >0 =0');
    expect(c.changes.every((x) => x.what.some((w) => w.aspect === 'definition'))).toBe(true);
  });

  test('the same look written otherwise is no change', async () => {
    expect(
      (
        await between(
          '<g fill="red" transform="translate(5 5) scale(2)"><rect width="10" height="10" stroke="black"/></g>',
          '<rect x="5" y="5" width="20" height="20" style="fill:#F00;stroke:#000;stroke-width:2px"/>',
        )
      ).changes,
    ).toEqual([]);
    expect(single(await between('<rect width="10" height="10"/>', '<path d="M0 0h10v10h-10z"/>')).what).toEqual([
      { aspect: 'kind', from: 'rectangle', to: 'path' },
    ]);
  });
});

describe('pairing survives', () => {
  const drawing = scenery + bolts(60);

  test.each([
    ['renumbered ids', renumbered],
    ['no ids at all', withoutIds],
  ])('%s', async (_, edit) => expect((await between(drawing, edit(drawing))).changes).toEqual([]));

  test('elements in another order', async () => {
    const pieces = drawing.match(/<[^>]+>/g)!;
    expect((await between(drawing, [...pieces].reverse().join(''))).changes).toEqual([]);
    expect((await between(drawing, withoutIds([...pieces].reverse().join('')))).changes).toEqual([]);
  });

  test('ids handed to other parts', async () => {
    const shuffled = drawing.replace(/ id="s(\d+)"/g, (_, n: string) => ` id="s${(Number(n) + 7) % 30}"`);
    expect((await between(drawing, shuffled)).changes).toEqual([]);
  });

  test('one edit among renumbered ids is one change', async () => {
    const edited = renumbered(drawing.replace('fill="#555555"', 'fill="#abcdef"'));
    expect(single(await between(drawing, edited)).what).toEqual([
      { aspect: 'style', property: 'fill', from: '#555555', to: '#abcdef' },
    ]);
  });

  test('float noise of a re-export', async () => {
    const noisy = withoutIds(drawing).replace(
      /c([xy])="(\d+)"/g,
      (_, axis: string, n: string) => `c${axis}="${Number(n) + 0.0011}"`,
    );
    expect((await between(drawing, noisy)).changes).toEqual([]);
  });
});

describe('repeated parts', () => {
  test('a hundred equal bolts moved together do not cross, with or without ids', async () => {
    for (const id of [(i: number) => ` id="bolt${i}"`, () => '']) {
      const c = await between(scenery + bolts(100, 500, id), scenery + bolts(100, 540, id));
      expect(counts(c)).toBe('+0 -0 ~0 >100 =30');
      expect(c.changes.every((x) => x.boxA![0] === x.boxB![0])).toBe(true);
    }
  });

  test('one of many taken out is one removal', async () => {
    const fewer = bolts(60).replace(/<circle id="bolt31"[^>]*>/, '');
    const change = single(await between(scenery + bolts(60), withoutIds(scenery + fewer)));
    expect(change).toMatchObject({ kind: 'removed', boxA: [20 + 31 * 9 - 3, 497, 20 + 31 * 9 + 3, 503] });
  });

  test('a part removed and another added elsewhere are two changes, not one', async () => {
    const c = await between(
      scenery + '<rect id="old" x="10" y="800" width="30" height="30"/>',
      scenery + '<rect id="new" x="700" y="900" width="300" height="10"/>',
    );
    expect(counts(c)).toBe('+1 -1 ~0 >0 =30');
  });
});

test('group ids that a program changed are not a change of layer', async () => {
  const grouped = (id: string): string => `<g id="${id}">${scenery}</g>`;
  expect((await between(grouped('walls'), grouped('g4711'))).changes).toEqual([]);
  expect((await between(grouped('walls'), withoutIds(grouped('walls')))).changes).toEqual([]);
});

describe('lesser levels', () => {
  test('text by lines: changed, added, removed', async () => {
    const c = comparisonSchema.parse(
      (await compared('one\ntwo words here\nthree\nfour\n', 'one\ntwo words there\nthree\nfour\nfive\n', 'a.txt'))
        .comparison,
    );
    expect(c.level).toBe('text');
    expect(counts(c)).toBe('+1 -0 ~1 >0 =3');
    expect(c.changes[0]).toMatchObject({
      kind: 'changed',
      part: { key: 'line 2' },
      what: [{ aspect: 'text', from: 'two words here', to: 'two words there' }],
    });
  });

  test('a row taken out of a table does not shift the rest', async () => {
    const rows = Array.from({ length: 500 }, (_, i) => `B${i},${i * 7},steel`);
    const fewer = rows.filter((_, i) => i !== 100).join('\r\n');
    const c = (await compared(rows.join('\n'), fewer, 'a.csv')).comparison;
    expect(counts(c)).toBe('+0 -1 ~0 >0 =1497');
  });

  test('bytes: size and first difference', async () => {
    const c = comparisonSchema.parse(
      (await compared(Uint8Array.from([0, 1, 2, 3]), Uint8Array.from([0, 1, 9]), 'a.bin')).comparison,
    );
    expect(c).toMatchObject({ level: 'bytes', counts: { changed: 1, unchanged: 0 } });
    expect(c.changes[0]!.what).toEqual([
      { aspect: 'size', from: '4 bytes', to: '3 bytes' },
      { aspect: 'content', at: 2, property: 'first difference at offset 2', from: 'byte 02', to: 'byte 09' },
    ]);
  });

  test('a damaged drawing is compared by lines, and says so', async () => {
    const c = (await compared(svg('\n<rect width="1" height="1"/>\n'), '<svg>\n<rect width="1" hei', 'x.svg'))
      .comparison;
    expect(c.level).toBe('text');
    expect(c.notes.join(' ')).toMatch(/newer file could not be read part by part.*Compared line by line/);
  });
});

describe('summary line', () => {
  test.each([
    [scenery, scenery + '<text x="5" y="5">Lift</text>', 'Text “Lift” added'],
    [
      scenery + '<text id="t" x="5" y="5">Lift</text>',
      scenery + '<text id="t" x="5" y="5">Stairs</text>',
      'Text “Lift” now “Stairs”',
    ],
    [scenery + bolts(3), scenery, '3 circles removed'],
    [bolts(3) + scenery, bolts(3).replace(/#fff/g, '#eee') + scenery, '3 circles: fill #ffffff → #eeeeee'],
    [scenery, scenery, 'No change'],
  ])('%#', async (a, b, says) => expect((await between(a, b)).summary).toBe(says));
});

test('the picture has the outlines of what changed and nothing else', async () => {
  const { outlines } = await compared(
    svg(scenery + '<rect id="r" x="10" y="10" width="20" height="5"/>'),
    svg(scenery),
    'x.svg',
  );
  expect(Object.keys(outlines.outlines)).toEqual(['c1']);
  expect(outlines.outlines['c1']!.a!.paths).toEqual([[10, 10, 30, 10, 30, 15, 10, 15]]);
  expect(outlines.pageA!.box).toEqual([0, 0, 1000, 1000]);
});

test('what changed within a symbol is said, and with it nothing but its placements', async () => {
  const drawing = (r: number, more = ''): string =>
    `<svg viewBox="0 0 200 100"><symbol id="bollard" overflow="visible"><circle r="${r}"/><rect x="-2" y="-2" width="4" height="4"/>${more}</symbol>${[20, 60, 110].map((x) => `<use href="#bollard" x="${x}" y="50"/>`).join('')}</svg>`;
  const causes = async (a: string, b: string): Promise<string[]> => sentences(await compared(a, b, 'x.svg'));
  expect(await causes(drawing(8), drawing(9))).toEqual(['Symbol “bollard” changed: 3 placements (1 shape changed)']);
  expect(await causes(drawing(8), drawing(8, '<path d="M0 0V30" stroke="black"/>'))).toEqual([
    'Symbol “bollard” changed: 3 placements (1 shape added)',
  ]);
  expect(await causes(drawing(8, '<path d="M0 0V30" stroke="black"/>'), drawing(7))).toEqual([
    'Symbol “bollard” changed: 3 placements (1 shape changed, 1 removed)',
  ]);
});
