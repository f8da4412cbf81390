/** Files made to hurt whoever reads them, by scripts: small, and well formed as far as they must be. */
import { crc32, deflateSync, gzipSync } from 'node:zlib';

/** A document of numbered objects, the first of which is its catalogue. */
export function documentOf(objects: readonly string[]): Uint8Array {
  let text = '%PDF-1.7\n';
  const places: number[] = [];
  for (const [i, object] of objects.entries()) {
    places.push(text.length);
    text += `${i + 1} 0 obj${object}\nendobj\n`;
  }
  const rows = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  const size = objects.length + 1;
  const trailer = `trailer<</Size ${size}/Root 1 0 R>>\nstartxref\n${text.length}\n%%EOF`;
  return new TextEncoder().encode(`${text}xref\n0 ${size}\n0000000000 65535 f \n${rows}${trailer}`);
}

const onePage = (contents: string, more: readonly string[]): Uint8Array =>
  documentOf([
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Contents 4 0 R>>',
    `<</Length ${contents.length}>>stream\n${contents}\nendstream`,
    ...more,
  ]);

const form = (content: string): string =>
  `<</Type/XObject/Subtype/Form/BBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Length ${content.length}>>stream\n${content}\nendstream`;

/** A form that invokes itself, twice each time. */
export const selfInvokingDocument = (): Uint8Array => onePage('/F Do', [form('/F Do /F Do')]);

/** Lists of pages within one another, as deep as one likes, that come back to the first. */
export const circularDocument = (): Uint8Array =>
  documentOf(['<</Type/Catalog/Pages 2 0 R>>', '<</Type/Pages/Kids[2 0 R 2 0 R]/Count 1000000>>']);

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const svgOf = (inner: string, attributes = ''): Uint8Array =>
  utf8(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" ${attributes}>${inner}</svg>`);

/** A definition that places the one before it ten times, and so on: ten to the power of `depth` at the end. */
function multiplying(
  depth: number,
  define: (id: string, inner: string) => string,
  place: (id: string) => string,
): string {
  const levels = Array.from({ length: depth }, (_, i) =>
    define(`d${i + 1}`, Array.from({ length: 10 }, () => place(`d${i}`)).join('')),
  );
  return `<defs>${define('d0', '<path d="M0 0h1"/>')}${levels.join('')}</defs>${place(`d${depth}`)}`;
}

const group = (id: string, inner: string): string => `<g id="${id}">${inner}</g>`;
const symbol = (id: string, inner: string): string => `<symbol id="${id}">${inner}</symbol>`;
const used = (id: string): string => `<use href="#${id}" x="1"/>`;
const pattern = (id: string, inner: string): string =>
  `<pattern id="${id}" width="1" height="1" patternUnits="userSpaceOnUse">${inner}</pattern>`;
const patterned = (id: string): string => `<rect width="90" height="90" fill="url(#${id})"/>`;
const nested = (tag: string, depth: number): string => `<${tag}>`.repeat(depth) + `</${tag}>`.repeat(depth);

const dxfOf = (...sections: readonly string[]): Uint8Array => utf8([...sections, '  0', 'EOF', ''].join('\n'));
const section = (name: string, ...lines: readonly string[]): string =>
  ['  0', 'SECTION', '  2', name, ...lines, '  0', 'ENDSEC'].join('\n');
const block = (name: string, ...inner: readonly string[]): string =>
  ['  0', 'BLOCK', '  2', name, ' 10', '0', ' 20', '0', ...inner, '  0', 'ENDBLK'].join('\n');
const insert = (name: string, more = ''): string =>
  ['  0', 'INSERT', '  2', name, ' 10', '0', ' 20', '0'].join('\n') + more;

/** A picture that says it is far larger than its bytes. */
function hugePng(width: number, height: number): Uint8Array {
  const piece = (type: string, data: Uint8Array): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 6, 0, 0, 0], 8);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const rows = deflateSync(Buffer.alloc(4 * 1024 * 1024));
  return Uint8Array.from(
    Buffer.concat([signature, piece('IHDR', head), piece('IDAT', rows), piece('IEND', new Uint8Array())]),
  );
}

/** One member that says that it is small, and is not. */
function zipOf(name: string, data: Uint8Array, saidSize: number): Uint8Array {
  const packed = deflateRaw(data);
  const nameBytes = Buffer.from(name);
  const local = Buffer.alloc(30);
  local.writeUInt32LE(0x04034b50, 0);
  local.writeUInt16LE(8, 8);
  local.writeUInt32LE(crc32(data), 14);
  local.writeUInt32LE(packed.length, 18);
  local.writeUInt32LE(saidSize, 22);
  local.writeUInt16LE(nameBytes.length, 26);
  const central = Buffer.alloc(46);
  central.writeUInt32LE(0x02014b50, 0);
  local.copy(central, 10, 8, 28);
  central.writeUInt16LE(nameBytes.length, 28);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length + nameBytes.length, 12);
  end.writeUInt32LE(local.length + nameBytes.length + packed.length, 16);
  return Uint8Array.from(Buffer.concat([local, nameBytes, packed, central, nameBytes, end]));
}

const deflateRaw = (data: Uint8Array): Buffer => {
  const whole = deflateSync(data);
  return whole.subarray(2, -4);
};

const entities = (count: number): string => {
  const list = Array.from({ length: count }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`);
  return `<!DOCTYPE svg [<!ENTITY e0 "lol">${list.join('')}]>`;
};

const tiff = (...words: readonly number[]): Uint8Array => {
  const out = Buffer.alloc(8 + words.length * 2);
  out.write('II*\0', 'latin1');
  out.writeUInt32LE(8, 4);
  words.forEach((word, i) => out.writeUInt16LE(word, 8 + 2 * i));
  return Uint8Array.from(out);
};

/** Names with an ending that promises a format, and what is in them. */
export const hostileFiles: Readonly<Record<string, () => Uint8Array>> = {
  'self-invoking.pdf': selfInvokingDocument,
  'circular.pdf': circularDocument,
  'many-operators.pdf': () => onePage('q Q '.repeat(400_000), [form('')]),
  'deep-states.pdf': () => onePage('q '.repeat(200_000), [form('')]),
  'long-dash.pdf': () => onePage(`[${'0.0001 '.repeat(50_000)}] 0 d 0 0 m 200 200 l S`, [form('')]),
  'huge-page.pdf': () =>
    documentOf([
      '<</Type/Catalog/Pages 2 0 R>>',
      '<</Type/Pages/Kids[3 0 R]/Count 1>>',
      '<</Type/Page/Parent 2 0 R/MediaBox[0 0 99999999999 99999999999]>>',
    ]),
  'million-pages.pdf': () =>
    documentOf([
      '<</Type/Catalog/Pages 2 0 R>>',
      `<</Type/Pages/Kids[${'3 0 R '.repeat(100_000)}]/Count 100000>>`,
      '<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>',
    ]),
  'deep-arrays.pdf': () =>
    documentOf([
      '<</Type/Catalog/Pages 2 0 R>>',
      `<</Type/Pages/Kids${'['.repeat(100_000)}${']'.repeat(100_000)}/Count 1>>`,
    ]),
  'entities.svg': () => utf8(`${entities(12)}<svg xmlns="http://www.w3.org/2000/svg"><text>&e12;</text></svg>`),
  'external-entity.svg': () =>
    utf8(
      `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><text>&x;</text></svg>`,
    ),
  'uses.svg': () => svgOf(multiplying(12, group, used)),
  'symbols.svg': () => svgOf(multiplying(12, symbol, used)),
  'patterns.svg': () => svgOf(multiplying(12, pattern, patterned)),
  'self-use.svg': () => svgOf('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/><use href="#a"/></g>'),
  'self-pattern.svg': () =>
    svgOf(`<defs>${pattern('p', '<rect width="9" height="9" fill="url(#p)"/>')}</defs>${patterned('p')}`),
  'self-mask.svg': () =>
    svgOf(
      '<defs><mask id="m"><rect width="9" height="9" mask="url(#m)"/></mask></defs><rect width="9" height="9" mask="url(#m)"/>',
    ),
  'self-clip.svg': () =>
    svgOf(
      '<defs><clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath></defs><rect width="9" height="9" clip-path="url(#c)"/>',
    ),
  'self-gradient.svg': () =>
    svgOf(
      '<defs><linearGradient id="g" href="#h"/><linearGradient id="h" href="#g"/></defs><rect width="9" height="9" fill="url(#g)"/>',
    ),
  'deep.svg': () => svgOf(nested('g', 20_000)),
  'deep-texts.svg': () => svgOf(`<text>${nested('tspan', 5000)}</text>`),
  'many-attributes.svg': () => svgOf(`<rect ${Array.from({ length: 60_000 }, (_, i) => `a${i}="1"`).join(' ')}/>`),
  'long-path.svg': () => svgOf(`<path d="M0 0${'a1 1 0 1 1 0 .1'.repeat(60_000)}"/>`),
  'long-dash.svg': () => svgOf('<path d="M0 0h1e9" stroke="red" stroke-dasharray="1e-9"/>'),
  'far-away.svg': () => svgOf('<path d="M-1e300 1e300L1e308 -1e308z"/><circle r="1e307"/>'),
  'no-numbers.svg': () => svgOf('<rect width="NaN" height="Infinity"/><path d="M0 0LNaN 1"/>', 'width="1e999"'),
  'many-rules.svg': () =>
    svgOf(
      `<style>${Array.from({ length: 3000 }, (_, i) => `g g>g *:not(.a${i}) .b${i}{fill:red}`).join('')}</style>${'<g><rect width="1" height="1" class="b1"/></g>'.repeat(1500)}`,
    ),
  'style-recursion.svg': () => svgOf(`<style>${'@media all{'.repeat(5000)}${'}'.repeat(5000)}</style>`),
  'filter.svg': () =>
    svgOf(
      '<defs><filter id="f" x="-1e6" y="-1e6" width="1e9" height="1e9"><feGaussianBlur stdDeviation="1e6"/></filter></defs><rect width="9" height="9" filter="url(#f)"/>',
    ),
  'data-in-data.svg': () => {
    let inner = '<rect width="9" height="9"/>';
    for (let i = 0; i < 12; i++)
      inner = `<image width="9" height="9" href="data:image/svg+xml;base64,${Buffer.from(svgOf(inner)).toString('base64')}"/>`;
    return svgOf(inner);
  },
  'script.svg': () => svgOf('<script>while(true){}</script><rect width="9" height="9" onload="while(1){}"/>'),
  'bomb.svgz': () => Uint8Array.from(gzipSync(Buffer.alloc(300 * 1024 * 1024, '<g/>'))),
  'self-insert.dxf': () =>
    dxfOf(
      section('BLOCKS', block('A', insert('B')), block('B', insert('A'), insert('A'))),
      section('ENTITIES', insert('A')),
    ),
  'inserts.dxf': () =>
    dxfOf(
      section(
        'BLOCKS',
        block('B0', '  0', 'LINE', ' 10', '0', ' 20', '0', ' 11', '1', ' 21', '1'),
        ...Array.from({ length: 12 }, (_, i) =>
          block(`B${i + 1}`, ...Array.from({ length: 10 }, () => insert(`B${i}`))),
        ),
      ),
      section('ENTITIES', insert('B12')),
    ),
  'array.dxf': () =>
    dxfOf(
      section('BLOCKS', block('A', '  0', 'POINT', ' 10', '0', ' 20', '0')),
      section('ENTITIES', insert('A', '\n 70\n32000\n 71\n32000\n 44\n1\n 45\n1')),
    ),
  'no-numbers.dxf': () =>
    dxfOf(
      section(
        'ENTITIES',
        '  0',
        'CIRCLE',
        ' 10',
        'NaN',
        ' 20',
        '1e999',
        ' 40',
        '-1e308',
        '  0',
        'ARC',
        ' 40',
        'Infinity',
        ' 50',
        '1e300',
        ' 51',
        '-1e300',
      ),
    ),
  'spline.dxf': () =>
    dxfOf(
      section(
        'ENTITIES',
        '  0',
        'SPLINE',
        ' 71',
        '2000000000',
        ' 72',
        '2000000000',
        ' 73',
        '2000000000',
        ' 10',
        '0',
        ' 20',
        '0',
      ),
    ),
  'hatch.dxf': () =>
    dxfOf(
      section(
        'ENTITIES',
        '  0',
        'HATCH',
        '  2',
        'X',
        ' 70',
        '0',
        ' 91',
        '1',
        ' 92',
        '2',
        ' 93',
        '4',
        ...['0', '1e7', '1e7', '0'].flatMap((x, i) => [' 10', x, ' 20', i < 2 ? '0' : '1e7']),
        ' 78',
        '1',
        ' 53',
        '0',
        ' 43',
        '0',
        ' 44',
        '0',
        ' 45',
        '0',
        ' 46',
        '1e-9',
        ' 79',
        '1',
        ' 49',
        '1e-9',
      ),
    ),
  'odd-lines.dxf': () => utf8('  0\nSECTION\n  2\nENTITIES\n  0\n'.repeat(20_000)),
  'huge.png': () => hugePng(60_000, 60_000),
  'wide.png': () => hugePng(2_147_483_647, 1),
  'circle.tiff': () => tiff(1, 256, 4, 1, 0, 60_000, 0, 8, 0),
  'empty.tiff': () => tiff(65_535),
  'large.psd': () => {
    const head = Buffer.alloc(2000);
    head.write('8BPS', 'latin1');
    head.set([0, 1, 0, 0, 0, 0, 0, 0, 0, 4, 0, 0, 0x75, 0x30, 0, 0, 0x75, 0x30, 0, 8, 0, 3], 4);
    return Uint8Array.from(head);
  },
  'bomb.xlsx': () => zipOf('xl/worksheets/sheet1.xml', Buffer.alloc(200 * 1024 * 1024), 100),
  'bomb.ora': () => zipOf('stack.xml', Buffer.alloc(200 * 1024 * 1024, '<layer>'), 100),
  'bomb.gz': () => Uint8Array.from(gzipSync(Buffer.alloc(200 * 1024 * 1024))),
  'deep.xml': () => utf8(nested('a', 100_000)),
  'deep.gltf': () => utf8(`{"asset":{"version":"2.0"},"extras":${'['.repeat(100_000)}${']'.repeat(100_000)}}`),
  'long-line.md': () => utf8(`${'['.repeat(200_000)}a](b)`),
  'many-lines.txt': () => utf8('\n'.repeat(3_000_000)),
  'one-line.txt': () => utf8('x'.repeat(8_000_000)),
  'nul.svg': () => utf8('<svg xmlns="http://www.w3.org/2000/svg">\0\0\0<rect/></svg>'),
  'half-character.svg': () => Uint8Array.from([...svgOf('<text>'), 0xed, 0xa0, 0x80, 0xff, 0xfe]),
  'empty.pdf': () => new Uint8Array(),
};
