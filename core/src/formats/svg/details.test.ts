import { designOf } from '../../testing.ts';
import { GeometryBuilder } from '../../geometry/builder.ts';
import { angleOf, applyX, applyY, identity, multiply, parseTransform, scaleOf } from '../../geometry/matrix.ts';
import { defaultLimits } from '../../model/limits.ts';
import { parseXml, type XmlElement } from '../xml/parse.ts';
import { normaliseColour } from './colour.ts';
import { parseDeclarations, StyleSheet } from './css.ts';
import { DefinitionTable } from './definitions.ts';
import { enter, labelOf, looksGenerated, ungrouped } from './groups.ts';
import { lengthOf } from './length.ts';
import { originOf } from './origin.ts';
import { nestedView, rootView } from './viewport.ts';
import { readSvg } from './read.ts';
import { viewTag } from './view.ts';
import type { Design } from '../../model/design.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const element = (text: string): XmlElement => parseXml(bytes(text), defaultLimits, 'http://www.w3.org/2000/svg').root;
const find = (root: XmlElement, id: string): XmlElement => {
  const pending = [root];
  for (let e = pending.pop(); e; e = pending.pop()) {
    if (e.attributes['id'] === id) return e;
    for (const c of e.children) if (typeof c !== 'string') pending.push(c);
  }
  throw new Error(`no ${id}`);
};

describe('transforms', () => {
  const at = (text: string, x: number, y: number): number[] => {
    const m = parseTransform(text);
    return [applyX(m, x, y), applyY(m, x, y)].map((n) => Math.round(n * 1e6) / 1e6);
  };

  test.each([
    ['translate(3 4)', [4, 6]],
    ['translate(3)', [4, 2]],
    ['scale(2)', [2, 4]],
    ['scale(2,3)', [2, 6]],
    ['rotate(90)', [-2, 1]],
    ['rotate(180 5 5)', [9, 8]],
    ['skewX(45)', [3, 2]],
    ['skewY(45)', [1, 3]],
    ['matrix(1 0 0 1 10 20)', [11, 22]],
    ['translate(10,0) scale(2)', [12, 4]],
    ['scale(2)translate(10,0)', [22, 4]],
    ['', [1, 2]],
  ])('%s', (text, expected) => expect(at(text, 1, 2)).toEqual(expected));

  test('nonsense is left out and reported', () => {
    const bad: string[] = [];
    expect(parseTransform('wobble(3) translate(5) matrix(1 2)', (w) => bad.push(w))).toEqual([1, 0, 0, 1, 5, 0]);
    expect(bad).toEqual(['wobble(3)', 'matrix(1 2)']);
  });

  test('scale and angle are read back', () => {
    const m = multiply(parseTransform('rotate(30)'), parseTransform('scale(3)'));
    expect(scaleOf(m)).toBeCloseTo(3);
    expect(angleOf(m)).toBeCloseTo(30);
    expect(multiply(identity, m)).toBe(m);
  });
});

test.each([
  ['12', 12],
  ['12px', 12],
  ['1in', 96],
  ['25.4mm', 96],
  ['2.54cm', 96],
  ['72pt', 96],
  ['6pc', 96],
  ['2em', 32],
  ['50%', 100],
  ['1e2', 100],
  ['.5', 0.5],
  ['-3', -3],
  ['x', 7],
  ['3 furlongs', 7],
  [undefined, 7],
])('length %s', (text, expected) => expect(lengthOf(text, 200, 7)).toBeCloseTo(expected));

test.each([
  ['red', '#ff0000'],
  ['#F00', '#ff0000'],
  ['#f008', '#ff000088'],
  ['#FF0000FF', '#ff0000'],
  ['rgb(255, 0, 0)', '#ff0000'],
  ['rgb(100%,0%,0%)', '#ff0000'],
  ['rgba(255,0,0,.5)', '#ff000080'],
  ['hsl(0,100%,50%)', '#ff0000'],
  ['hsl(120 100% 25%)', '#008000'],
  ['none', 'none'],
  [' Navy ', '#000080'],
  ['rgb(nonsense)', 'rgb(nonsense)'],
])('colour %s', (text, expected) => expect(normaliseColour(text)).toBe(expected));

describe('style sheets', () => {
  const sheet = (css: string): StyleSheet => {
    const s = new StyleSheet();
    s.add(css, (n) => notes.push(n));
    return s;
  };
  const notes: string[] = [];
  beforeEach(() => notes.splice(0));
  const doc = element('<svg class="top"><g id="g" class="a b"><rect id="r" class="c" data-k="v"/></g></svg>');
  const fills = (css: string, id: string): (string | undefined)[] =>
    sheet(css)
      .matching(find(doc, id))
      .map((d) => d['fill']);

  test.each([
    ['rect{fill:1}', 'r', ['1']],
    ['.c{fill:1}', 'r', ['1']],
    ['#r{fill:1}', 'r', ['1']],
    ['*{fill:1}', 'r', ['1']],
    ['rect.c#r{fill:1}', 'r', ['1']],
    ['.a.b{fill:1}', 'g', ['1']],
    ['.a.x{fill:1}', 'g', []],
    ['.top rect{fill:1}', 'r', ['1']],
    ['.top > rect{fill:1}', 'r', []],
    ['g > rect{fill:1}', 'r', ['1']],
    ['[data-k="v"]{fill:1}', 'r', ['1']],
    ['[data-k=w]{fill:1}', 'r', []],
    ['circle, rect{fill:1}', 'r', ['1']],
    ['#r{fill:1} .c{fill:2} rect{fill:3}', 'r', ['3', '2', '1']],
    ['rect{fill:1} rect{fill:2}', 'r', ['1', '2']],
  ])('%s on %s', (css, id, expected) => expect(fills(css, id)).toEqual(expected));

  test('selectors that are not followed are counted in a note', () => {
    expect(fills('rect:hover{fill:1} a + rect{fill:2} rect{fill:3}', 'r')).toEqual(['3']);
    expect(notes).toEqual(['2 style rules use selectors that Ovrel does not follow.']);
  });

  test('broken style sheets do no harm', () => {
    for (const css of ['rect{fill:', '}}}', '@import url(x);rect{fill:1}', '<!-- rect{fill:1} -->'])
      expect(() => fills(css, 'r')).not.toThrow();
  });

  test('style sheets that are nested without end are left out, with a note, and the drawing is read', () => {
    const nested = `${'@media all{'.repeat(5000)}${'}'.repeat(5000)}`;
    const { parts, notes } = readSvg(
      bytes(`<svg xmlns="http://www.w3.org/2000/svg"><style>${nested}</style><rect width="9" height="9"/></svg>`),
      defaultLimits,
    );
    expect(parts).toHaveLength(1);
    expect(notes).toContainEqual(expect.stringContaining('style sheet in the drawing could not be read'));
  });

  test('declarations keep what stands in brackets and quotes together', () => {
    expect(
      parseDeclarations('fill: url(data:image/png;base64,AA==) ; Stroke:RED!important; font-family: "a;b", serif'),
    ).toEqual({ fill: 'url(data:image/png;base64,AA==)', stroke: 'RED', 'font-family': '"a;b", serif' });
  });
});

describe('groups', () => {
  test('labels: of editors, of accessibility, and titles', () => {
    expect(labelOf(element('<g xmlns:e="urn:e" e:label=" Piles "/>'))).toBe('Piles');
    expect(labelOf(element('<g aria-label="Deck"/>'))).toBe('Deck');
    expect(labelOf(element('<g><title>Fenders</title></g>'))).toBe('Fenders');
    expect(labelOf(element('<g id="x"/>'))).toBeUndefined();
  });

  test.each(['path4711', 'g12-3', 'layer_2', '_x31', '3f2504e0-4f89-11d3-9a0c-0305e82c3301', 'a1b2c3d4'])(
    '%s looks like a program made it',
    (id) => expect(looksGenerated(id)).toBe(true),
  );
  test.each(['walls', 'north-pier', 'Deck', 'step-free'])('%s looks like a person wrote it', (id) =>
    expect(looksGenerated(id)).toBe(false),
  );

  test('layers inside layers say where they are; groups inside layers do not count', () => {
    const layer = (label: string): XmlElement => element(`<g xmlns:e="urn:e" e:groupmode="layer" e:label="${label}"/>`);
    const inner = enter(element('<g id="detail"/>'), enter(layer('Bolts'), enter(layer('Steel'), ungrouped)));
    expect(inner).toMatchObject({
      category: 'Steel › Bolts',
      categoryIsKey: false,
      parents: ['Steel', 'Bolts', 'detail'],
    });
  });
});

describe('views', () => {
  test.each([
    ['<svg viewBox="0 0 10 20"/>', [0, 0, 10, 20]],
    ['<svg width="10" height="20"/>', [0, 0, 10, 20]],
    ['<svg width="1in" height="2in"/>', [0, 0, 96, 192]],
    ['<svg viewBox="-5,-5,10,10" width="100%" height="100%"/>', [-5, -5, 5, 5]],
    ['<svg viewBox="0 0 0 10" width="3" height="4"/>', [0, 0, 3, 4]],
    ['<svg/>', undefined],
    ['<svg viewBox="a b c d"/>', undefined],
  ])('%s', (text, page) => expect(rootView(element(text)).page).toEqual(page));

  test('a nested drawing is fitted as it asks to be', () => {
    const fit = (attributes: string): readonly number[] =>
      nestedView(element(`<svg x="10" y="20" width="100" height="50" viewBox="0 0 10 10" ${attributes}/>`), {
        width: 400,
        height: 400,
      }).matrix;
    expect(fit('')).toEqual([5, 0, 0, 5, 35, 20]);
    expect(fit('preserveAspectRatio="xMinYMin"')).toEqual([5, 0, 0, 5, 10, 20]);
    expect(fit('preserveAspectRatio="xMidYMax slice"')).toEqual([10, 0, 0, 10, 10, -30]);
    expect(fit('preserveAspectRatio="none"')).toEqual([10, 0, 0, 5, 10, 20]);
  });

  test('the picture of a drawing has a size that cannot be misread, and nothing else is touched', () => {
    const source = '<!-- x --><svg width="100%" id="r" viewBox="0 0 50 100" preserveAspectRatio="none"><rect/></svg>';
    const { start, end, tag } = viewTag(bytes(source), [0, 0, 50, 100])!;
    expect(source.slice(0, start) + source.slice(end)).toBe('<!-- x --><rect/></svg>');
    expect(tag).toBe('<svg id="r" xmlns="http://www.w3.org/2000/svg" width="512" height="1024" viewBox="0 0 50 100">');
    expect(viewTag(bytes('<svg xmlns="http://www.w3.org/2000/svg"/>'), [0, 0, 1, 1])!.tag).toMatch(
      /viewBox="0 0 1 1"\/>$/,
    );
  });
});

test('what a definition is does not depend on ids, its own or inside', () => {
  const table = (text: string): [DefinitionTable, XmlElement] => {
    const root = element(text);
    const byId = new Map<string, XmlElement>();
    for (const id of text.match(/id="([^"]+)"/g)?.map((m) => m.slice(4, -1)) ?? []) byId.set(id, find(root, id));
    return [new DefinitionTable(byId), root];
  };
  const print = (text: string, id: string): string => {
    const [t, root] = table(text);
    return t.fingerprint(find(root, id));
  };
  const gradient = (a: string, b: string, colour: string): string =>
    `<svg><linearGradient id="${a}" href="#${b}"/><linearGradient id="${b}"><stop stop-color="${colour}"/></linearGradient></svg>`;
  expect(print(gradient('a', 'b', 'red'), 'a')).toBe(print(gradient('x1', 'x2', 'red'), 'x1'));
  expect(print(gradient('a', 'b', 'red'), 'a')).not.toBe(print(gradient('a', 'b', 'blue'), 'a'));
  expect(() => print('<svg><g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g></svg>', 'a')).not.toThrow();
});

test('the program that wrote a drawing is read from a comment or a version', () => {
  expect(originOf(bytes('<!-- Generator: Drafting Desk 3.1, SVG export -->'), {}).program).toBe(
    'Drafting Desk 3.1, SVG export',
  );
  expect(originOf(bytes('<!-- Created with Quill -->'), { version: '1.1' })).toEqual({
    program: 'Quill',
    formatVersion: '1.1',
  });
  expect(originOf(bytes('<svg>'), { 'desk:version': '0.9' }).program).toBe('desk 0.9');
  expect(originOf(bytes('<svg>'), {})).toEqual({});
});

describe('geometry', () => {
  test('a closed subpath does not repeat its first point; a lone move draws nothing', () => {
    const g = new GeometryBuilder(1000);
    g.moveTo(0, 0);
    g.lineTo(5, 0);
    g.lineTo(0, 0);
    g.close();
    const { points, starts, closed } = g.finish();
    expect([...points]).toEqual([0, 0, 5, 0]);
    expect([...starts]).toEqual([0, 2]);
    expect([...closed]).toEqual([1]);
  });

  test('a curve is cut into the same number of pieces wherever it stands', () => {
    const count = (dx: number): number => {
      const g = new GeometryBuilder(1000);
      g.moveTo(dx, 0);
      g.curveTo(dx + 1, 1, dx + 2, 1, dx + 3, 0);
      return g.finish().points.length;
    };
    expect(count(0)).toBe(count(123_456.789));
  });

  test('too many points are refused with the number', () => {
    const g = new GeometryBuilder(1000);
    expect(() => {
      for (let i = 0; i < 5000; i++) g.lineTo(i, i);
    }).toThrow(/more than 1,000 points/);
  });
});

describe('transforms of CSS', () => {
  const box = (rect: string, css = ''): number[] =>
    designOf(`<svg viewBox="0 0 200 100"><style>${css}</style>${rect}</svg>`, 'x.svg').parts[0]!.box!.map(
      (v) => Math.round(v * 1000) / 1000,
    );

  test.each([
    [
      'an origin turns about it',
      '<rect x="10" y="10" width="20" height="10" transform="rotate(90)" transform-origin="10 10"/>',
      '',
      [0, 10, 10, 30],
    ],
    [
      'percentages are of the view box',
      '<rect x="100" y="50" width="20" height="10" transform="scale(2)" style="transform-origin: 50% 50%"/>',
      '',
      [100, 50, 140, 70],
    ],
    [
      'words too',
      '<rect x="190" y="90" width="10" height="10" transform="scale(0.5)" transform-origin="right bottom"/>',
      '',
      [195, 95, 200, 100],
    ],
    [
      'a transform from a style sheet',
      '<rect class="a" width="10" height="10"/>',
      '.a { transform: translate(30px, 5px) rotate(0deg) }',
      [30, 5, 40, 15],
    ],
    [
      'the style sheet wins over the attribute',
      '<rect class="a" width="10" height="10" transform="translate(99)"/>',
      '.a { transform: translate(30px, 5px) }',
      [30, 5, 40, 15],
    ],
  ])('%s', (_, rect, css, wanted) => expect(box(rect, css)).toEqual(wanted));
});

describe('text along a path', () => {
  const sign = (offset: string, d = 'M0 100H1000'): Design =>
    readSvg(
      new TextEncoder().encode(
        `<svg viewBox="0 0 1000 1000"><defs><path id="way" d="${d}"/></defs><text font-size="20"><textPath href="#way" startOffset="${offset}">Ferry landing</textPath></text></svg>`,
      ),
      defaultLimits,
    );
  const boxOf = (d: Design): readonly number[] => d.parts[0]?.box ?? [];

  test('stands where the path goes', () => {
    const flat = boxOf(sign('0'));
    expect(flat[0]).toBeLessThan(0);
    expect(flat[1]).toBeCloseTo(100 - 15.6, 6);
    expect(flat[2]).toBeGreaterThan(130);
    expect(flat[2]).toBeLessThan(180);
    // Half way along, and down instead of to the right.
    expect(boxOf(sign('50%'))[0]).toBeCloseTo(500 - 15.6, 6);
    const down = boxOf(sign('0', 'M300 0V900'));
    expect(down[2]! - down[0]!).toBeLessThan(32);
    expect(down[3]! - down[1]!).toBeGreaterThan(130);
  });

  test('another path is a change of the text', () =>
    expect(sign('0').parts[0]?.props['along']).not.toEqual(sign('0', 'M0 120H1000').parts[0]?.props['along']));
  test('a path that is not there leaves the words', () =>
    expect(
      readSvg(
        new TextEncoder().encode('<svg><text x="5" y="9"><textPath href="#gone">Ferry</textPath></text></svg>'),
        defaultLimits,
      ).parts[0],
    ).toMatchObject({ lettering: { runs: [{ text: 'Ferry' }] } }));
});

describe('what definitions hold', () => {
  test('their shapes, in their own coordinates, and nothing of them on the page', () => {
    const { definitions, parts, pages } = readSvg(
      new TextEncoder().encode(
        '<svg><symbol id="s" overflow="visible"><circle r="5"/><g transform="translate(10 0)"><rect width="4" height="4"/></g><text>N</text></symbol><use href="#s" x="100" y="100"/></svg>',
      ),
      defaultLimits,
    );
    expect(parts).toHaveLength(1);
    expect(definitions[0]?.inside?.map((p) => [p.kind, p.box?.[0]])).toEqual([
      ['circle', -5],
      ['rectangle', 10],
      ['text', 0],
    ]);
    expect(pages[0]!.box[0]).toBeGreaterThan(90);
  });

  test('definitions that place one another in a circle are cut, and counted once', () => {
    const design = readSvg(
      new TextEncoder().encode(
        '<svg><g id="a"><use href="#b"/><circle r="1"/></g><g id="b"><use href="#a"/></g><use href="#a"/></svg>',
      ),
      defaultLimits,
    );
    expect(design.definitions.map((d) => d.key).sort()).toEqual(['a', 'b']);
    expect(design.notes.filter((n) => n.includes('circle was cut'))).toHaveLength(1);
  });
});

test('links are known by their namespace, whatever their prefix', () => {
  const { parts } = designOf(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://www.w3.org/1999/xlink" viewBox="0 0 9 9">
      <defs><path id="leaf" d="M1 1h3v3z"/></defs><use x:href="#leaf"/></svg>`,
    'a.svg',
  );
  expect(parts).toMatchObject([{ kind: 'placement', box: [1, 1, 4, 4] }]);
});
