/** Words, colours and looks of DXF drawings, by the codes that files carry. */
import { designOf } from '../../testing.ts';
import { numberedColour, trueColour } from './colours.ts';
import { encodingOf, paragraphs, plainText, unescape } from './words.ts';

test.each([
  ['AC1032', 'ANSI_1252', 'utf-8'],
  ['AC1015', 'ANSI_1252', 'windows-1252'],
  ['AC1015', 'ANSI_1251', 'windows-1251'],
  ['AC1009', 'ansi_932', 'shift_jis'],
  ['AC1009', 'dos850', 'windows-1252'],
  ['AC1009', 'ISO8859-2', 'iso-8859-2'],
  ['AC1009', '', 'windows-1252'],
  ['AC1018', 'ANSI_936', 'gbk'],
])('files of %s with the code page %s are %s', (version, page, label) => {
  expect(encodingOf(version, page)).toBe(label);
  expect(() => new TextDecoder(label)).not.toThrow();
});

test('characters by number, and those with a caret', () => {
  expect(unescape('\\U+00D8 \\U+4e2d')).toBe('Ø 中');
  expect(unescape('a^Jb^Ic^Md^ e')).toBe('a\nb\tcd^e');
});

test.each([
  ['45%%d', '45°'],
  ['%%p0.5', '±0.5'],
  ['%%C20 H7', '⌀20 H7'],
  ['%%uGate%%u', 'Gate'],
  ['100%%%', '100%'],
  ['%%065%%066', 'AB'],
  ['100%', '100%'],
])('%s reads %s', (coded, says) => expect(plainText(coded)).toBe(says));

describe('a text of several lines', () => {
  const read = (source: string): string => paragraphs(source).lines.join(' | ');

  test.each([
    ['One\\PTwo\\NThree', 'One | Two | Three'],
    ['{\\fArial|b1|i0;Bold} plain', 'Bold plain'],
    ['\\H2.5x;Large \\C1;red \\LLined\\l', 'Large red Lined'],
    ['\\S1/2; and \\S3^4; and \\S5#8;', '1/2 and 3/4 and 5/8'],
    ['\\S+0.1^;', '+0.1'],
    ['a\\~b', 'a\u00a0b'],
    ['back\\\\slash \\{brace\\}', 'back\\slash {brace}'],
    ['ends in a code without its end \\Hx', 'ends in a code without its end x'],
    ['trailing   \\Pblanks', 'trailing | blanks'],
    ['⌀ %%c', '⌀ ⌀'],
  ])('%s reads %s', (source, says) => expect(read(source)).toBe(says));

  test('keeps what people see of its formatting apart from its words', () => {
    const plain = paragraphs('Gate 1200');
    const bold = paragraphs('{\\fArial|b1|i0;Gate} 1200');
    expect(bold.lines).toEqual(plain.lines);
    expect(bold.formatting).not.toBe(plain.formatting);
    expect(paragraphs('{\\fArial|b1|i0;Gate 1200}').formatting).toBe(bold.formatting);
  });
});

describe('numbered colours', () => {
  test('begin with the plain ones; 7 and what is out of range are black on paper', () => {
    expect([1, 2, 3, 4, 5, 6].map(numberedColour)).toEqual([
      ...['#ff0000', '#ffff00', '#00ff00', '#00ffff', '#0000ff', '#ff00ff'],
    ]);
    for (const n of [7, 0, -1, 256, NaN, 3.5e9]) expect(numberedColour(n)).toBe('#000000');
  });

  test('go round the circle in steps of 15°, and through five levels', () => {
    expect(numberedColour(10)).toBe('#ff0000');
    expect(numberedColour(30)).toBe('#ff8000');
    expect(numberedColour(90)).toBe('#00ff00');
    expect(numberedColour(130)).toBe('#00ffff');
    expect(numberedColour(170)).toBe('#0000ff');
    expect(numberedColour(240)).toBe('#ff0040');
    expect([10, 12, 14, 16, 18].map(numberedColour)).toEqual(['#ff0000', '#cc0000', '#990000', '#7f0000', '#4c0000']);
    expect(numberedColour(11)).toBe('#ff8080');
  });

  test('end with greys, each lighter than the one before', () => {
    const greys = [250, 251, 252, 253, 254, 255].map((n) => parseInt(numberedColour(n).slice(1, 3), 16));
    expect(greys).toEqual(greys.toSorted((p, q) => p - q));
  });

  test('every number is a colour', () => {
    for (let n = 0; n < 256; n++) expect(numberedColour(n)).toMatch(/^#[0-9a-f]{6}$/);
  });

  test('full colours are as they are', () =>
    expect([trueColour(0xff8800), trueColour(1)]).toEqual(['#ff8800', '#000001']));
});

/** A drawing with a layer “piles” (red, dashed, 0.5 mm) and what is given. */
function drawing(entities: string, blocks = ''): ReturnType<typeof designOf> {
  const groups = (text: string): string =>
    text
      .trim()
      .split(/\s*\n\s*/)
      .join('\n');
  const table = `
    0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER
    0\nLAYER\n2\npiles\n70\n0\n62\n1\n6\nDASHED\n370\n50
    0\nLAYER\n2\n0\n70\n0\n62\n7\n6\nCONTINUOUS
    0\nENDTAB\n0\nENDSEC`;
  return designOf(
    groups(
      `${table}
      0\nSECTION\n2\nBLOCKS\n${blocks}\n0\nENDSEC
      0\nSECTION\n2\nENTITIES\n${entities}\n0\nENDSEC\n0\nEOF`.replace(/\n\s*\n/g, '\n'),
    ),
    'x.dxf',
  );
}
const line = (layer: string, more = ''): string => `0\nLINE\n8\n${layer}\n${more}10\n0\n20\n0\n11\n10\n21\n0`;

describe('the look of an entity', () => {
  const look = (more: string): Record<string, unknown> => drawing(line('piles', more)).parts[0]!.props;

  test('comes from its layer where it says nothing', () =>
    expect(look('')).toMatchObject({ colour: '#ff0000', 'line type': 'DASHED', 'line weight': 0.5 }));

  test('is its own where it says so', () =>
    expect(look('62\n3\n6\nDOT\n370\n25\n')).toMatchObject({
      colour: '#00ff00',
      'line type': 'DOT',
      'line weight': 0.25,
    }));

  test('a full colour counts for more than a number; a weight of −3 is the default', () => {
    expect(look('62\n3\n420\n16744448\n')).toMatchObject({ colour: '#ff8000' });
    expect(look('370\n-3\n')['line weight']).not.toBe(0.5);
  });

  test('by block, outside of blocks, is what a block would be drawn with', () =>
    expect(look('62\n0\n6\nBYBLOCK\n')).toMatchObject({ colour: '#000000' }));

  test('hidden is said, and so is the scale of a line type', () =>
    expect(look('60\n1\n48\n2.5\n')).toMatchObject({ hidden: 'yes', 'line type scale': 2.5 }));
});
