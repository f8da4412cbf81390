import { strToU8, zipSync } from 'fflate';
import { referencesOf } from './find.ts';
import { joined, pathOf, resolve } from './reference.ts';

const of = async (name: string, text: string | Uint8Array): Promise<string[]> =>
  (await referencesOf(typeof text === 'string' ? new TextEncoder().encode(text) : text, name)).map(
    (r) => `${r.kind} ${r.target}`,
  );

test('SVG: pictures, parts of other drawings, styles; not the file itself, data or comments', async () => {
  expect(
    await of(
      'plan.svg',
      `<?xml version="1.0"?><?xml-stylesheet href="lines.css" type="text/css"?>
    <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"><style>@import "base.css"; .a { fill: url(#g); background: url('paper.png') } /* url(no.png) */</style>
    <!-- <image href="no.png"/> --><image xlink:href="photos/quay &amp; ramp.jpg"/><svg:image href='photos/quay &amp; ramp.jpg'/>
    <use href="#bolt"/><use href="symbols.svg#cleat"/><image href="data:image/png;base64,AA"/><a href="other.html"/><rect style="fill:url(tile.png)"/></svg>`,
    ),
  ).toEqual([
    'style lines.css',
    'picture photos/quay & ramp.jpg',
    'drawing symbols.svg#cleat',
    'picture tile.png',
    'style base.css',
    'picture paper.png',
  ]);
});

test('DXF: external references, pictures and underlays; ordinary blocks are none', async () => {
  const dxf = (pairs: [number, string][]): string => pairs.map(([code, value]) => `${code}\r\n${value}`).join('\r\n');
  expect(
    await of(
      'deck.dxf',
      dxf([
        [0, 'SECTION'],
        [2, 'BLOCKS'],
        [0, 'BLOCK'],
        [2, 'cleat'],
        [70, '0'],
        [1, ''],
        [0, 'ENDBLK'],
        [0, 'BLOCK'],
        [2, 'survey'],
        [70, '4'],
        [3, 'survey'],
        [1, '..\\survey\\levels.dwg'],
        [0, 'ENDBLK'],
        [0, 'BLOCK'],
        [2, 'grid'],
        [70, '12'],
        [1, 'grid.dxf'],
        [0, 'ENDBLK'],
        [0, 'IMAGEDEF'],
        [1, 'aerial.tif'],
        [0, 'PDFDEFINITION'],
        [1, 'C:\\jobs\\Quillmere\\old plan.pdf'],
        [0, 'TEXT'],
        [1, 'not a file.png'],
        [0, 'EOF'],
      ]),
    ),
  ).toEqual([
    'drawing ..\\survey\\levels.dwg',
    'drawing grid.dxf',
    'picture aerial.tif',
    'document C:\\jobs\\Quillmere\\old plan.pdf',
  ]);
});

test('models: materials, textures with options, buffers', async () => {
  expect(await of('shelter.obj', 'mtllib shelter glass.mtl steel.mtl\nv 0 0 0\n')).toEqual([
    'material shelter glass.mtl',
    'material steel.mtl',
  ]);
  expect(
    await of('steel.mtl', 'newmtl a\nmap_Kd -s 1 1 1 -o 0 0 rust red.png\nbump -bm 0.3 grain.png\nKd 1 1 1\n'),
  ).toEqual(['texture rust red.png', 'texture grain.png']);
  const gltf = JSON.stringify({
    buffers: [{ uri: 'gangway.bin' }, { uri: 'data:,x' }, {}],
    images: [{ uri: 'deck%20wood.jpg' }],
  });
  expect(await of('gangway.gltf', gltf)).toEqual(['data gangway.bin', 'texture deck%20wood.jpg']);
  const json = new TextEncoder().encode(gltf.padEnd(Math.ceil(gltf.length / 4) * 4));
  const glb = new Uint8Array(20 + json.length);
  const view = new DataView(glb.buffer);
  [0x46546c67, 2, glb.length, json.length, 0x4e4f534a].forEach((n, i) => view.setUint32(i * 4, n, true));
  glb.set(json, 20);
  expect(await of('gangway.glb', glb)).toEqual(['data gangway.bin', 'texture deck%20wood.jpg']);
});

test('IFC: documents, with their escapes', async () =>
  expect(
    await of(
      'shelter.ifc',
      `ISO-10303-21;DATA;\n#1=IFCDOCUMENTREFERENCE('docs/R\\X\\FCckbau''s plan.pdf','A1','Plan',$,$);\n#2= IFCDOCUMENTINFORMATION('D2','Spec',$,'docs/spec.docx',$);\n#3=IFCWALL('no.pdf');\n#4=IFCDOCUMENTINFORMATION('D3','B',$,$,'docs/last.pdf',$);`,
    ),
  ).toEqual(["document docs/Rückbau's plan.pdf", 'document docs/last.pdf']));

test('XLSX: linked workbooks and pictures, not web links', async () => {
  const rels = (inner: string): Uint8Array => strToU8(`<Relationships xmlns="x">${inner}</Relationships>`);
  expect(
    await of(
      'steel.xlsx',
      zipSync({
        'xl/externalLinks/_rels/externalLink1.xml.rels': rels(
          '<Relationship Id="1" Type="http://x/externalLinkPath" Target="../prices%202026.xlsx" TargetMode="External"/>',
        ),
        'xl/drawings/_rels/d.xml.rels': rels(
          '<Relationship Type="http://x/image" Target="logo.png" TargetMode="External"/><Relationship Type="http://x/image" Target="../media/image1.png"/>',
        ),
        'xl/worksheets/_rels/s.xml.rels': rels(
          '<Relationship Type="http://x/hyperlink" Target="https://quillmere.example" TargetMode="External"/>',
        ),
      }),
    ),
  ).toEqual(['table ../prices%202026.xlsx', 'picture logo.png']);
});

test('Markdown and HTML: pictures, in every way that they are written, but not in code', async () => {
  expect(
    await of(
      'method.md',
      '![Crane](pics/crane.png "Crane")\n![Ramp][r] ![Pile]\n<img src="pile set.jpg" srcset="a.png 1x, b.png 2x">\n`![no](no.png)`\n```\n![no](no.png)\n```\n[link](other.md)\n\n[r]: <pics/the ramp.png>\n[pile]: pile.svg\n',
    ),
  ).toEqual([
    'picture pics/crane.png',
    'picture pics/the ramp.png',
    'picture pile.svg',
    'picture pile set.jpg',
    'picture a.png',
    'picture b.png',
  ]);
  expect(
    await of(
      'sign.html',
      '<link rel="stylesheet" href="s.css"><link rel="icon" href="i.png"><script src="x.js"></script><IMG SRC="ferry.png">',
    ),
  ).toEqual(['style s.css', 'picture ferry.png']);
});

test('what is damaged or of another kind has none, and never throws', async () => {
  for (const name of ['a.xlsx', 'a.docx', 'a.odt', 'a.gltf', 'a.glb', 'a.dxf', 'a.svg', 'a.ifc', 'a.md', 'a.bin'])
    expect(await of(name, new Uint8Array([0xff, 0xfe, 1, 2, 3, 0, 255]))).toEqual([]);
});

test('two thousand references are all found, quickly even where they are hostile', async () => {
  expect(
    await of('big.svg', `<svg>${Array.from({ length: 2000 }, (_, i) => `<image href="p${i}.png"/>`).join('')}</svg>`),
  ).toHaveLength(2000);
  expect(await of('bomb.svg', `<svg ${'a="'.repeat(50_000)}`)).toEqual([]);
  expect(await of('bomb.md', '!['.repeat(20_000))).toEqual([]);
});

describe('where references lead', () => {
  const files = [
    'plans/landing.svg',
    'signs/Gate.svg',
    'signs/photos/quay & ramp.jpg',
    'deck wood.jpg',
    'a/twice.png',
    'b/twice.png',
  ].map((path) => ({ path }));
  const found = (target: string, from = 'signs/gate-board.svg'): string => {
    const [r] = resolve([{ target, kind: 'picture' }], from, files);
    return `${r!.found} ${r!.file?.path ?? ''}`.trim();
  };

  test.each([
    ['../plans/landing.svg#deck', 'path plans/landing.svg'],
    ['gate.svg', 'path signs/Gate.svg'],
    ['./photos/quay%20&%20ramp.jpg', 'path signs/photos/quay & ramp.jpg'],
    ['..\\deck wood.jpg', 'path deck wood.jpg'],
    ['C:\\jobs\\old\\landing.svg', 'name plans/landing.svg'],
    ['file:///home/ines/landing.svg', 'name plans/landing.svg'],
    ['../../elsewhere/Landing.SVG', 'name plans/landing.svg'],
    ['twice.png', 'missing'],
    ['nowhere.png', 'missing'],
    ['https://quillmere.example/logo.png', 'web'],
    ['100%.png', 'missing'],
  ])('%s is %s', async (target, expected) => expect(found(target)).toBe(expected));

  test('paths are joined without leaving the project', async () => {
    expect(joined('a/b', '../c/./d.svg')).toBe('a/c/d.svg');
    expect(joined('', '../x')).toBeUndefined();
    expect(pathOf('#here')).toBeUndefined();
    expect(pathOf('data:,x')).toBeUndefined();
  });
});

test('documents and presentations name what is linked into them, not what they hold', async () => {
  const rels = (inside: string): Uint8Array => strToU8(`<Relationships>${inside}</Relationships>`);
  expect(
    await of(
      'method.docx',
      zipSync({
        'word/_rels/document.xml.rels': rels(
          '<Relationship Id="1" Type="http://x/image" Target="file:///photos/quay%20wall.jpg" TargetMode="External"/><Relationship Id="2" Type="http://x/image" Target="media/image1.png"/><Relationship Id="3" Type="http://x/hyperlink" Target="https://quillmere.example" TargetMode="External"/>',
        ),
      }),
    ),
  ).toEqual(['picture file:///photos/quay%20wall.jpg']);
  const odt =
    '<office:body><draw:image xlink:href="../photos/quay.jpg" xlink:type="simple"/><draw:image xlink:href="Pictures/100.png"/><text:section-source xlink:href="../../parts/piling.odt"/><draw:object xlink:href="./Object 1"/></office:body>';
  expect(
    await of(
      'method.odt',
      zipSync({
        'content.xml': strToU8(odt),
        'styles.xml': strToU8('<draw:fill-image xlink:href="../paper&amp;.png"/>'),
      }),
    ),
  ).toEqual(['picture photos/quay.jpg', 'document ../parts/piling.odt', 'picture paper&.png']);
});

test('a binary DXF names the same as the same drawing in text', async () => {
  const pairs: readonly [number, string | number][] = [
    [0, 'SECTION'],
    [2, 'BLOCKS'],
    [0, 'BLOCK'],
    [8, '0'],
    [2, 'quay'],
    [70, 4],
    [10, 12.5],
    [1, 'plans\\quay.dxf'],
    [0, 'ENDBLK'],
    [0, 'BLOCK'],
    [70, 1],
    [1, 'not this'],
    [0, 'ENDBLK'],
    [0, 'ENDSEC'],
    [0, 'IMAGEDEF'],
    [90, 0],
    [290, 1],
    [160, 7],
    [310, 'chunk'],
    [1, 'photos/tide.png'],
    [0, 'EOF'],
  ];
  const binary = (wide: boolean): Uint8Array => {
    const out: number[] = [...strToU8('AutoCAD Binary DXF\r\n\x1a\0')];
    const number = (write: (view: DataView) => void, size: number): void => {
      const view = new DataView(new ArrayBuffer(size));
      write(view);
      out.push(...new Uint8Array(view.buffer));
    };
    for (const [code, value] of pairs) {
      if (wide) out.push(code & 255, code >> 8);
      else if (code < 255) out.push(code);
      else out.push(255, code & 255, code >> 8);
      if (code === 310) out.push(5, ...strToU8(String(value)));
      else if (typeof value === 'string') out.push(...strToU8(value), 0);
      else if (code === 70) number((v) => v.setInt16(0, value, true), 2);
      else if (code === 290) out.push(value);
      else if (code === 90) number((v) => v.setInt32(0, value, true), 4);
      else number((v) => v.setFloat64(0, value, true), 8);
    }
    return Uint8Array.from(out);
  };
  const text = strToU8(pairs.map(([code, value]) => `${code}\n${value}`).join('\n'));
  const expected = ['drawing plans\\quay.dxf', 'picture photos/tide.png'];
  expect(await of('site.dxf', text)).toEqual(expected);
  expect(await of('site.dxf', binary(true))).toEqual(expected);
  expect(await of('site.dxf', binary(false))).toEqual(expected);
  for (let end = 0; end < 200; end += 7)
    expect(Array.isArray(await of('site.dxf', binary(true).subarray(0, end)))).toBe(true);
});
