import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { SaxesParser } from 'saxes';
import { defaultLimits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Design, Part } from '../../model/design.ts';
import { open } from '../../kinds/content.ts';
import { readSvg } from './read.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (inner: string, attributes = 'viewBox="0 0 100 100"'): Design =>
  readSvg(
    bytes(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`,
    ),
    defaultLimits,
  );
const only = (inner: string): Part => {
  const { parts } = read(inner);
  expect(parts).toHaveLength(1);
  return parts[0]!;
};
const box = (part: Part | undefined): number[] => part!.box!.map((n) => Math.round(n * 1000) / 1000);
const failure = (content: string | Uint8Array): ReadError => {
  try {
    readSvg(typeof content === 'string' ? bytes(content) : content, defaultLimits);
  } catch (error) {
    expect(error).toBeInstanceOf(ReadError);
    return error as ReadError;
  }
  throw new Error('it was read');
};

describe('shapes', () => {
  test.each([
    ['<rect x="10" y="20" width="30" height="5"/>', 'rectangle', [10, 20, 40, 25]],
    ['<rect x="10" y="20" width="30" height="10" rx="2"/>', 'rectangle', [10, 20, 40, 30]],
    ['<circle cx="50" cy="50" r="10"/>', 'circle', [40, 40, 60, 60]],
    ['<ellipse cx="50" cy="50" rx="10" ry="5"/>', 'ellipse', [40, 45, 60, 55]],
    ['<line x1="1" y1="2" x2="30" y2="4"/>', 'line', [1, 2, 30, 4]],
    ['<polyline points="1,1 5,9 9,1"/>', 'polyline', [1, 1, 9, 9]],
    ['<polygon points="1 1 5 9 9 1"/>', 'polygon', [1, 1, 9, 9]],
    ['<path d="M10 10h20v10l-20-10z"/>', 'path', [10, 10, 30, 20]],
    ['<path d="M0 0 A10 10 0 0 1 20 0"/>', 'path', [0, -10, 20, 0]],
    ['<rect x="10%" y="1cm" width="50%" height="1in"/>', 'rectangle', [10, 37.795, 60, 133.795]],
  ])('%s', (source, kind, expected) => {
    const part = only(source);
    expect(part.kind).toBe(kind);
    box(part).forEach((v, i) => expect(v).toBeCloseTo(expected[i]!, 1));
  });

  test('the same closed shape has the same points however it is written', () => {
    const points = (source: string): number[] => [...read(source).geometry.points];
    expect(points('<path d="M0 0 L10 0 L10 10 Z"/>')).toEqual(points('<path d="m0,0 10,0 0,10 -10,-10z"/>'));
    expect(points('<polygon points="0 0 10 0 10 10"/>')).toEqual(points('<path d="M0 0H10V10Z"/>'));
  });
});

test('nested transforms are applied from the inside out', () => {
  const part = only(
    '<g transform="translate(10 0)"><g transform="scale(2)"><rect transform="rotate(90)" x="0" y="0" width="4" height="2"/></g></g>',
  );
  expect(box(part)).toEqual([6, 0, 10, 8]);
});

test('a placement of a symbol is one part, drawn with all that the symbol draws', () => {
  const design = read(
    '<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/><circle cx="5" cy="5" r="2"/></symbol><use href="#s" x="20" y="30" width="20" height="20"/><use xlink:href="#s" x="60" y="0" width="10" height="10"/>',
  );
  expect(design.parts.map((p) => p.kind)).toEqual(['placement', 'placement']);
  expect(box(design.parts[0])).toEqual([20, 30, 40, 50]);
  expect(design.parts[0]!.subpaths).toBe(2);
  expect(design.definitions).toMatchObject([{ key: 's', kind: 'symbol', parts: 2 }]);
});

test('a definition that places itself is cut, and said', () => {
  const design = read('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/><rect width="1" height="1"/></g>');
  expect(design.notes.join()).toMatch(/places? (itself|themselves)/);
});

describe('style', () => {
  test('attributes, rules by specificity, and inline style, in that order', () => {
    const design = read(
      '<style>rect{fill:red;stroke:#00f} .w{fill:rgb(0,128,0)} g > #x.w{stroke-width:3}</style><g><rect id="x" class="w" fill="black" width="5" height="5"/><rect class="w" style="fill:#abc" width="5" height="5"/></g>',
    );
    expect(design.parts[0]!.props).toMatchObject({ fill: '#008000', stroke: '#0000ff', 'stroke-width': 3 });
    expect(design.parts[1]!.props).toMatchObject({ fill: '#aabbcc', stroke: '#0000ff', 'stroke-width': 1 });
  });

  test('is inherited, opacities multiply, and widths grow with the scale', () => {
    const part = only(
      '<g fill="none" stroke="currentColor" color="#123456" opacity=".5"><g transform="scale(3)" opacity=".5"><path d="M0 0h1" stroke-width="2"/></g></g>',
    );
    expect(part.props).toMatchObject({ fill: 'none', stroke: '#123456', 'stroke-width': 6, opacity: 0.25 });
  });

  test('a gradient is known by content, not by id', () => {
    const fill = (id: string, stop: string): unknown =>
      only(
        `<defs><linearGradient id="${id}"><stop stop-color="${stop}"/></linearGradient></defs><rect width="5" height="5" fill="url(#${id})"/>`,
      ).props['fill'];
    expect(fill('g1', 'red')).toBe(fill('g999', 'red'));
    expect(fill('g1', 'red')).not.toBe(fill('g1', 'blue'));
  });
});

test('layers come from layer groups, then labels, then ids that a person wrote', () => {
  const design = read(
    '<g xmlns:e="urn:e"><g e:groupmode="layer" e:label="Walls"><g id="g12"><rect id="r" width="1" height="1"/></g></g><g id="doors"><rect width="1" height="1"/></g><g id="g99"><rect width="1" height="1"/></g></g>',
  );
  expect(design.parts.map((p) => p.category)).toEqual(['Walls', 'doors', '']);
});

test('text keeps its words, place and lines', () => {
  const part = only(
    '<text x="10" y="20" font-size="5">Pier <tspan font-weight="bold">one</tspan><tspan x="10" dy="1.2em">north</tspan></text>',
  );
  expect(part.lettering!.runs).toEqual([
    { text: 'Pier one', x: 10, y: 20 },
    { text: 'north', x: 10, y: 26 },
  ]);
  expect(part.name).toBe('“Pier one north”');
});

test('the page is the viewBox, with the size of its unit', () => {
  const design = read('<rect width="1" height="1"/>', 'width="210mm" height="297mm" viewBox="0 0 420 594"');
  expect(design.pages[0]).toMatchObject({ box: [0, 0, 420, 594], unitMillimetres: 0.5 });
  expect(design.origin.units).toBe('mm');
});

test('every part knows its bytes in the file', () => {
  const source =
    '<svg xmlns="http://www.w3.org/2000/svg"><text y="9">é</text><rect id="r" width="1" height="1"/></svg>';
  const part = readSvg(bytes(source), defaultLimits).parts[1]!;
  expect(new TextDecoder().decode(bytes(source).slice(...part.span))).toBe('<rect id="r" width="1" height="1"/>');
});

test('other encodings: ISO-8859-1 as declared, and UTF-16', () => {
  const latin = Uint8Array.from(
    Buffer.from(
      '<?xml version="1.0" encoding="ISO-8859-1"?><svg xmlns="http://www.w3.org/2000/svg"><text>Käfer</text></svg>',
      'latin1',
    ),
  );
  expect(readSvg(latin, defaultLimits).parts[0]!.name).toBe('“Käfer”');
  const utf16 = Uint8Array.from(
    Buffer.from('\ufeff<svg xmlns="http://www.w3.org/2000/svg"><text>Käfer</text></svg>', 'utf16le'),
  );
  expect(readSvg(utf16, defaultLimits).parts[0]!.name).toBe('“Käfer”');
});

test('prefixed names and a missing namespace are understood', () => {
  expect(
    readSvg(bytes('<s:svg xmlns:s="http://www.w3.org/2000/svg"><s:rect width="1" height="1"/></s:svg>'), defaultLimits)
      .parts,
  ).toHaveLength(1);
  expect(readSvg(bytes('<svg><rect width="1" height="1"/></svg>'), defaultLimits).parts).toHaveLength(1);
});

describe('bad input, each with a sentence', () => {
  test('a file that was cut off names the place', () => {
    const error = failure('<svg xmlns="http://www.w3.org/2000/svg"><g><rect width="1" height="1"/><rect wid');
    expect(error.message).toMatch(/stops in the middle of <rect>.*cut off/);
    expect(error.offset).toBe(71);
    expect(failure('<svg><g>').message).toMatch(/before <g>.*is closed/);
  });

  test.each([
    ['', 'empty'],
    ['<html></html>', 'root element is <html>'],
    ['<svg><a></b></svg>', 'does not close <a>'],
    ['<svg a="1" a="2"/>', 'twice'],
    ['<svg a=1/>', 'no quotes'],
    ['just words', 'no XML element|does not begin with XML'],
  ])('%s', (source, sentence) => expect(failure(source).message).toMatch(new RegExp(sentence)));

  test('an entity bomb is refused at once', () => {
    const bomb = `<!DOCTYPE svg [<!ENTITY a "ha">${Array.from({ length: 9 }, (_, i) => `<!ENTITY ${'bcdefghij'[i]} "${`&${'abcdefghi'[i]};`.repeat(10)}">`).join('')}]><svg><text>&j;</text></svg>`;
    expect(failure(bomb).message).toMatch(/entity.*Ovrel does not expand/);
  });

  test('one entity used a million times is refused too, and simple ones are expanded', () => {
    expect(
      failure(`<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(10_000)}">]><svg>${'<text>&a;</text>'.repeat(2000)}</svg>`)
        .message,
    ).toMatch(/expand to more than/);
    expect(
      readSvg(
        bytes(
          '<!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg"><!ENTITY q SYSTEM "file:///etc/passwd">]><svg xmlns="&ns;"><text>a&amp;b&q;</text></svg>',
        ),
        defaultLimits,
      ).parts[0]!.name,
    ).toBe('“a&b”');
  });

  test('scripts, handlers, outside references and foreign objects are told, not followed', () => {
    const notes = read(
      '<script>alert(1)</script><rect onclick="x()" width="1" height="1"/><image href="http://example.org/a.png" width="1" height="1"/><foreignObject width="5" height="5"><p xmlns="http://www.w3.org/1999/xhtml">x</p></foreignObject>',
    ).notes.join('\n');
    for (const word of [/1 script/, /1 event handler/, /1 reference points outside/, /foreignObject/])
      expect(notes).toMatch(word);
  });

  test('nesting and number of elements are bounded', () => {
    expect(failure(`<svg>${'<g>'.repeat(600)}${'</g>'.repeat(600)}</svg>`).message).toMatch(/nested more than/);
    expect(() => readSvg(bytes(`<svg>${'<g/>'.repeat(11)}</svg>`), { ...defaultLimits, elements: 10 })).toThrow(
      /more than 10 elements/,
    );
  });

  test('what is not readable is opened at the best level that works', async () => {
    expect(await open(bytes('plain words'), 'a.svg')).toMatchObject({
      kinds: ['text', 'bytes'],
      problem: { sentence: expect.stringMatching(/The name says SVG drawing/) as string },
    });
    expect(await open(Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0]), 'a.svg')).toMatchObject({
      kinds: ['picture', 'bytes'],
      problem: { sentence: expect.stringMatching(/PNG picture/) as string },
    });
    expect(await open(new Uint8Array(), 'a.svg')).toMatchObject({
      kinds: ['bytes'],
      problem: { sentence: expect.stringMatching(/empty/) as string },
    });
  });
});

describe('real drawings', () => {
  const real = ['lighthouse.svg', 'drawbridge.svg', 'sailboat-labels.svg'].map((name) =>
    readFileSync(join(__dirname, '../../../../demo/real', name)),
  );

  test.each(real)('has the elements that a strict parser finds (%#)', (content) => {
    let shapes = 0;
    const oracle = new SaxesParser({ xmlns: false });
    const inDefinition: string[] = [];
    oracle.on('opentag', (tag) => {
      if (
        ['defs', 'symbol', 'clipPath', 'pattern', 'foreignObject', 'metadata'].includes(tag.name) &&
        !tag.isSelfClosing
      )
        inDefinition.push(tag.name);
      if (
        !inDefinition.length &&
        ['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon'].includes(tag.name)
      )
        shapes++;
    });
    oracle.on('closetag', (tag) => {
      if (inDefinition.at(-1) === tag.name && !tag.isSelfClosing) inDefinition.pop();
    });
    oracle
      .write(
        content
          .toString('latin1')
          .replace(/<!DOCTYPE[^[>]*(\[[^\]]*\])?\s*>/, '')
          .replace(/&ns_\w+;/g, 'x'),
      )
      .close();
    const { parts } = readSvg(content, defaultLimits);
    expect(
      parts.filter((p) => ['path', 'rectangle', 'circle', 'ellipse', 'line', 'polyline', 'polygon'].includes(p.kind)),
    ).toHaveLength(shapes);
  });

  test('damage anywhere never does worse than a sentence', async () => {
    let seed = 7;
    const random = (n: number): number => {
      seed = (Math.imul(seed, 1103515245) + 12345) >>> 0;
      return seed % n;
    };
    for (let round = 0; round < 120; round++) {
      const copy = Uint8Array.from(real[round % real.length]!);
      for (let k = 0; k < 1 + random(6); k++) copy[random(copy.length)] = random(256);
      const opened = await open(round % 3 ? copy : copy.subarray(0, random(copy.length)), 'damaged.svg');
      expect(opened.kinds[0] === 'drawing' || Boolean(opened.problem)).toBe(true);
    }
  });
});
