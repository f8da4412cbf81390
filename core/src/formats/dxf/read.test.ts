import { drawFraming, framings } from '../../../../demo/drawings/framing.ts';
import { defaultLimits } from '../../model/limits.ts';
import type { Design, Part } from '../../model/design.ts';
import { ReadError } from '../../model/problem.ts';
import { svgOf } from '../../kinds/drawing/draw/svg.ts';
import { open } from '../../kinds/content.ts';
import { isBinary, sizeOfValue } from './groups.ts';
import { readDxf } from './read.ts';
import { DxfWriter } from './write.ts';

type Value = string | number;
const groups = (...pairs: (readonly [number, Value])[]): string =>
  pairs.map(([code, value]) => `${code}\n${value}\n`).join('');
const section = (name: string, inside: string): string =>
  groups([0, 'SECTION'], [2, name]) + inside + groups([0, 'ENDSEC']);
const file = (entities: string, more = '', version = 'AC1015'): string =>
  section('HEADER', groups([9, '$ACADVER'], [1, version], [9, '$INSUNITS'], [70, 4])) +
  more +
  section('ENTITIES', entities) +
  groups([0, 'EOF']);
const bytesOf = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, 'latin1'));
const read = (text: string | Uint8Array): Design =>
  readDxf(typeof text === 'string' ? bytesOf(text) : text, defaultLimits);
const only = (text: string): { part: Part; design: Design } => {
  const design = read(text);
  expect(design.parts).toHaveLength(1);
  return { part: design.parts[0]!, design };
};
const line = (layer = '0', ...more: (readonly [number, Value])[]): string =>
  groups([0, 'LINE'], [5, '1A'], [8, layer], ...more, [10, 1], [20, 2], [11, 4], [21, 6]);
const pointsOf = ({ part, design }: { part: Part; design: Design }): [number, number][] => {
  const { starts, points } = design.geometry;
  const out: [number, number][] = [];
  for (let p = starts[part.firstSubpath]!; p < starts[part.firstSubpath + part.subpaths]!; p++)
    out.push([points[2 * p]!, points[2 * p + 1]!]);
  return out;
};
const near = (p: readonly number[] | undefined, q: readonly number[]): void =>
  q.forEach((v, i) => expect(p?.[i]).toBeCloseTo(v, 6));

/** The same groups as binary DXF, codes in two bytes (or in one, as files before R13 have them). */
function binaryOf(text: string, wide = true): Uint8Array {
  const out: Buffer[] = [Buffer.from('AutoCAD Binary DXF\r\n\x1a\0', 'latin1')];
  const lines = text.split('\n');
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = Number(lines[i]);
    const value = lines[i + 1]!;
    const size = sizeOfValue(code);
    const two = Buffer.from(Int16Array.of(code).buffer);
    const short = code > 254 ? Buffer.concat([Buffer.of(255), two]) : Buffer.of(code);
    out.push(wide ? two : short);
    if (size === 'text') out.push(Buffer.from(`${value}\0`, 'latin1'));
    else if (size === 8) out.push(Buffer.from(Float64Array.of(Number(value)).buffer));
    else if (size === 4) out.push(Buffer.from(Int32Array.of(Number(value)).buffer));
    else if (size === 2) out.push(Buffer.from(Int16Array.of(Number(value)).buffer));
    else out.push(Buffer.of(Number(value)));
  }
  return Uint8Array.from(Buffer.concat(out));
}

describe('what a drawing is', () => {
  test('version, units, and who wrote it', () => {
    const design = read(groups([999, 'drawing office']) + file(line()));
    expect(design.origin).toEqual({ program: 'drawing office', formatVersion: 'AC1015 (2000)', units: 'mm' });
    expect(design.pages[0]).toMatchObject({ name: 'Model', unitMillimetres: 1 });
    expect(design.notes).toEqual([]);
  });

  test('it is known by its content, whatever its name', async () => {
    const drawn = { kinds: ['drawing', 'text', 'bytes'], card: { id: 'dxf' } };
    expect(await open(bytesOf(file(line())), 'plan.txt')).toMatchObject(drawn);
    expect(await open(binaryOf(file(line())), 'plan')).toMatchObject(drawn);
  });

  test.each([['\n'], ['\r\n'], ['\r']])('line ends %j', (end) =>
    expect(read(file(line()).replace(/\n/g, end)).parts).toHaveLength(1),
  );

  test('mixed line ends, and blanks before group codes', () => {
    let n = 0;
    expect(
      read(
        file(line() + line('walls'))
          .replace(/\n/g, () => ['\n', '\r\n', '\r'][n++ % 3]!)
          .replace(/^(\d)$/gm, '  $1'),
      ).parts,
    ).toHaveLength(2);
  });

  test.each([[true], [false]])('binary says the same as text (codes in two bytes: %s)', (wide) => {
    const text = file(
      line('walls', [62, 3], [370, 50]) +
        groups([0, 'CIRCLE'], [5, '2B'], [8, '0'], [10, 1.5], [20, -2], [40, 7.25]) +
        groups([0, 'TEXT'], [8, '0'], [10, 0], [20, 0], [40, 2.5], [1, 'Kai 3']),
    );
    const bytes = binaryOf(text, wide);
    const strip = (d: Design): unknown => ({ ...d, parts: d.parts.map((p) => ({ ...p, span: undefined })) });
    expect(isBinary(bytes)).toBe(true);
    expect(strip(read(bytes))).toEqual(strip(read(text)));
  });

  test('parts say where they stand in the file, and the text there is theirs', () => {
    const text = file(line('walls') + line('roof'));
    const { parts } = read(text);
    expect(parts.map((p) => text.slice(...p.span))).toEqual([line('walls'), line('roof')]);
  });
});

describe('entities', () => {
  test('a line, with y turned over', () => near(pointsOf(only(file(line()))).flat(), [1, -2, 4, -6]));

  test('a circle and an arc: radius and ends', () => {
    const circle = only(file(groups([0, 'CIRCLE'], [8, '0'], [10, 10], [20, 20], [40, 5])));
    near(circle.part.box, [5, -25, 15, -15]);
    expect(circle.design.geometry.closed[0]).toBe(1);
    const arc = pointsOf(only(file(groups([0, 'ARC'], [8, '0'], [10, 0], [20, 0], [40, 2], [50, 0], [51, 90]))));
    near(arc[0], [2, 0]);
    near(arc.at(-1), [0, -2]);
    // Counter-clockwise as the drawing is read: through (√2, √2).
    near(arc[Math.floor(arc.length / 2)], [Math.SQRT2, -Math.SQRT2]);
  });

  test('a normal pointing down mirrors', () =>
    near(
      only(file(groups([0, 'CIRCLE'], [8, '0'], [10, 10], [20, 20], [40, 5], [210, 0], [220, 0], [230, -1]))).part.box,
      [-15, -25, -5, -15],
    ));

  test('a half-circle bulge passes through its middle', () => {
    const bulged = pointsOf(
      only(file(groups([0, 'LWPOLYLINE'], [8, '0'], [90, 2], [70, 0], [10, 0], [20, 0], [42, 1], [10, 4], [20, 0]))),
    );
    near(bulged[Math.floor(bulged.length / 2)], [2, 2]);
    near(bulged.at(-1), [4, 0]);
  });

  test('an old polyline with its vertices is one part, its span up to SEQEND', () => {
    const vertex = (x: number, y: number, flags = 0): string =>
      groups([0, 'VERTEX'], [8, '0'], [10, x], [20, y], [70, flags]);
    const text = file(
      groups([0, 'POLYLINE'], [8, '0'], [66, 1], [70, 1]) +
        vertex(0, 0) +
        vertex(4, 0) +
        vertex(9, 9, 16) +
        vertex(4, 3) +
        groups([0, 'SEQEND'], [8, '0']) +
        line(),
    );
    const design = read(text);
    expect(design.parts.map((p) => p.kind)).toEqual(['polyline', 'line']);
    expect(pointsOf({ part: design.parts[0]!, design })).toHaveLength(3);
    expect(text.slice(...design.parts[0]!.span)).toMatch(/^0\nPOLYLINE[^]*VERTEX[^]*3\n70\n0\n$/);
  });

  test('an ellipse and a spline', () => {
    near(
      only(
        file(
          groups([0, 'ELLIPSE'], [8, '0'], [10, 0], [20, 0], [11, 10], [21, 0], [40, 0.5], [41, 0], [42, 2 * Math.PI]),
        ),
      ).part.box,
      [-10, -5, 10, 5],
    );
    // A cubic with one span is the Bézier curve of its control points.
    const curve = pointsOf(
      only(
        file(
          groups(
            [0, 'SPLINE'],
            [8, '0'],
            [70, 8],
            [71, 3],
            ...[0, 0, 0, 0, 1, 1, 1, 1].map((k) => [40, k] as const),
            ...[
              [0, 0],
              [0, 4],
              [8, 4],
              [8, 0],
            ].flatMap(
              ([x, y]) =>
                [
                  [10, x!],
                  [20, y!],
                ] as const,
            ),
          ),
        ),
      ),
    );
    near(curve[curve.length >> 1], [4, -3]);
  });

  test('text: words with their codes, place, turn and height', () => {
    const { part } = only(
      file(groups([0, 'TEXT'], [8, '0'], [10, 5], [20, 7], [40, 2], [50, 90], [1, '%%c20 %%p1 45%%d \\U+00E9 100%%%'])),
    );
    expect(part.lettering?.runs[0]?.text).toBe('⌀20 ±1 45° é 100%');
    near([part.transform[4], part.transform[5], part.transform[0], part.transform[1]], [5, -7, 0, -1]);
    expect(part.props).toMatchObject({ height: 2 });
  });

  test('multi-line text without its formatting codes, which are kept beside', () => {
    const { part } = only(
      file(
        groups(
          [0, 'MTEXT'],
          [8, '0'],
          [10, 0],
          [20, 0],
          [40, 2],
          [41, 0],
          [3, '{\\fArial|b1;Deck \\C1;pl'],
          [1, 'an}\\Pscale \\S1^50; \\\\ \\~end'],
          [101, 'Embedded Object'],
          [11, 40],
          [21, 90],
        ),
      ),
    );
    expect(part.lettering?.words).toBe('Deck plan\nscale 1/50 \\ \u00a0end');
    expect(part.props['formatting']).toMatch(/fArial/);
    // What an embedded object says is not the text's own direction.
    near([part.transform[0], part.transform[1]], [1, 0]);
  });

  test('a hatch: solid or by lines; edges and islands', () => {
    const square = [
      [92, 2],
      [72, 0],
      [73, 1],
      [93, 4],
      ...[
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ].flatMap(
        ([x, y]) =>
          [
            [10, x!],
            [20, y!],
          ] as const,
      ),
      [97, 0],
    ] as const;
    const head = [
      [0, 'HATCH'],
      [8, '0'],
      [10, 0],
      [20, 0],
      [30, 0],
    ] as const;
    expect(only(file(groups(...head, [2, 'SOLID'], [70, 1], [91, 1], ...square)))).toMatchObject({
      part: { props: { filled: 'yes' }, subpaths: 1 },
    });
    const edges = [
      [92, 1],
      [93, 2],
      [72, 1],
      [10, 0],
      [20, 0],
      [11, 4],
      [21, 0],
      [72, 2],
      [10, 2],
      [20, 0],
      [40, 2],
      [50, 0],
      [51, 180],
      [73, 1],
      [97, 0],
    ] as const;
    const lined = only(
      file(
        groups(
          ...head,
          [2, 'ANSI31'],
          [70, 0],
          [91, 2],
          ...square,
          ...edges,
          [75, 0],
          [76, 1],
          [52, 0],
          [41, 2],
          [78, 1],
          [53, 45],
          [43, 0],
          [44, 0],
          [45, -1],
          [46, 1],
          [79, 0],
        ),
      ),
    );
    expect(lined.part.subpaths).toBe(3);
    expect(lined.part.hatch).toEqual([expect.objectContaining({ dashes: [] })]);
    expect(lined.part.hatch?.[0]?.angle).toBeCloseTo(-45, 6);
    expect(lined.part.props).toMatchObject({ pattern: 'ANSI31', 'pattern scale': 2 });
  });

  test('what Ovrel does not know is kept, with whether its content changed', () => {
    const a = only(file(groups([0, 'ACAD_PROXY_ENTITY'], [5, '77'], [8, '0'], [91, 12])));
    const b = only(file(groups([0, 'ACAD_PROXY_ENTITY'], [5, '99'], [8, '0'], [91, 13])));
    expect(a.part.kind).toBe('proxy');
    expect(a.part.props['content']).not.toBe(b.part.props['content']);
    expect(a.design.notes.join()).toMatch(/1 entity of kinds that Ovrel keeps without drawing them: proxy/);
  });

  test('extended data are kept, without the handles in them', () => {
    const { part } = only(
      file(line('0').replace(/$/, '') + groups([1001, 'QUILLMERE'], [1000, 'oak'], [1005, '4F'], [1040, 2.5])),
    );
    expect(part.props['data QUILLMERE']).toBe('oak · 2.5');
  });

  test.each([
    ['DIMENSION'],
    ['IMAGE'],
    ['VIEWPORT'],
    ['LEADER'],
    ['3DFACE'],
    ['SOLID'],
    ['POINT'],
    ['XLINE'],
    ['MULTILEADER'],
    ['MLINE'],
    ['TOLERANCE'],
    ['HATCH'],
    ['SPLINE'],
    ['TEXT'],
    ['MTEXT'],
    ['ELLIPSE'],
    ['LWPOLYLINE'],
    ['INSERT'],
  ])('%s without any data is listed, draws no nonsense, and leaves its neighbours alone', (type) => {
    const design = read(file(line('walls') + groups([0, type], [5, 'E1'], [8, 'odd']) + line('roof')));
    expect(design.parts.map((p) => p.category)).toEqual(['walls', 'odd', 'roof']);
    expect([...design.geometry.points].every(Number.isFinite)).toBe(true);
    const drawn = svgOf(design, 0);
    expect(drawn).not.toMatch(/NaN|Infinity|undefined/);
    expect(drawn.match(/M1 -2L4 -6/g)).toHaveLength(2);
  });
});

describe('looks', () => {
  const layer = (name: string, ...more: (readonly [number, Value])[]): string =>
    groups([0, 'LAYER'], [2, name], ...more);
  const tables = (inside: string): string =>
    section('TABLES', groups([0, 'TABLE'], [2, 'LAYER']) + inside + groups([0, 'ENDTAB']));

  test('colour, line type and weight from the layer, or of their own', () => {
    const walls = tables(layer('walls', [62, 1], [6, 'DASHED'], [370, 50]));
    expect(only(file(line('walls'), walls)).part.props).toEqual({
      colour: '#ff0000',
      'line type': 'DASHED',
      'line weight': 0.5,
    });
    expect(only(file(line('walls', [62, 5], [6, 'CONTINUOUS'], [370, 13]), walls)).part.props).toEqual({
      colour: '#0000ff',
      'line weight': 0.13,
    });
    expect(only(file(line('walls', [420, 0x123456]), walls)).part.props['colour']).toBe('#123456');
  });

  test('layers that are off or frozen hide what is on them', () => {
    for (const row of [layer('x', [62, -1]), layer('x', [70, 1])])
      expect(only(file(line('x'), tables(row))).part.props['hidden']).toBe('yes');
    expect(only(file(line('X'), tables(layer('x', [62, -1])))).part.props['hidden']).toBe('yes');
  });
});

describe('blocks', () => {
  const block = (name: string, inside: string, base: readonly [number, number] = [0, 0]): string =>
    groups([0, 'BLOCK'], [8, '0'], [2, name], [70, 0], [10, base[0]], [20, base[1]]) + inside + groups([0, 'ENDBLK']);
  const insert = (name: string, ...more: (readonly [number, Value])[]): string =>
    groups([0, 'INSERT'], [8, 'walls'], [2, name], ...more);

  test('a placement is one part with a definition; scale, turn and base point count', () => {
    const { part, design } = only(
      file(
        insert('bolt', [10, 100], [20, 50], [41, 2], [42, 2], [50, 90]),
        section('BLOCKS', block('bolt', line(), [1, 2])),
      ),
    );
    expect(part).toMatchObject({ kind: 'placement', name: 'bolt', subpaths: 0 });
    // The line from (1, 2) to (4, 6) is one from (0, 0) to (3, 4) in the block; twice as long and turned it goes to
    // (−8, 6).
    near(part.box, [92, -56, 100, -50]);
    expect(design.definitions[0]).toMatchObject({ name: 'bolt', kind: 'block', parts: 1 });
  });

  test('a fingerprint knows the content, not the order, the handles or where the base point is drawn', () => {
    const print = (inside: string, base?: readonly [number, number]): string =>
      read(file(insert('b', [10, 0], [20, 0]), section('BLOCKS', block('b', inside, base)))).definitions[0]!
        .fingerprint;
    const circle = groups([0, 'CIRCLE'], [5, '5'], [8, '0'], [10, 3], [20, 3], [40, 1]);
    const moved = circle.replace('10\n3', '10\n13');
    const away = line().replace('10\n1\n', '10\n11\n').replace('11\n4\n', '11\n14\n');
    expect(print(circle + line().replace('1A', '9F'))).toBe(print(line() + circle));
    expect(print(moved + away, [10, 0])).toBe(print(circle + line()));
    expect(print(line())).not.toBe(print(line() + circle));
  });

  test('attributes are parts of their own', () => {
    const { parts } = read(
      file(
        insert('title', [66, 1], [10, 0], [20, 0]) +
          groups(
            [0, 'ATTRIB'],
            [8, 'walls'],
            [10, 1],
            [20, 1],
            [40, 2],
            [1, 'P02'],
            [2, 'REVISION'],
            [70, 0],
            [0, 'SEQEND'],
          ),
        section('BLOCKS', block('title', line())),
      ),
    );
    expect(parts.map((p) => [p.kind, p.name, p.parents])).toEqual([
      ['placement', 'title', []],
      ['attribute', 'REVISION', ['title']],
    ]);
  });

  test('a viewport is a window onto the model, at its scale and turned by its twist', () => {
    const { part } = only(
      file(
        groups(
          [0, 'VIEWPORT'],
          [8, '0'],
          [67, 1],
          [10, 100],
          [20, 80],
          [40, 60],
          [41, 40],
          [68, 2],
          [69, 2],
          [12, 5000],
          [22, 2000],
          [45, 8000],
        ),
      ),
    );
    expect(part.props).toMatchObject({ 'looks at': '5000, 2000', scale: '1:200' });
    near(part.window?.clip, [70, -100, 130, -60]);
    const [a, b, c, d, e, f] = part.window!.matrix;
    const at = (x: number, y: number): [number, number] => [a * x + c * -y + e, b * x + d * -y + f];
    near(at(5000, 2000), [100, -80]);
    near(at(5200, 2400), [101, -82]);
    const turned = only(
      file(
        groups(
          [0, 'VIEWPORT'],
          [8, '0'],
          [67, 1],
          [10, 0],
          [20, 0],
          [40, 60],
          [41, 40],
          [69, 2],
          [12, 0],
          [22, 0],
          [45, 40],
          [51, 90],
        ),
      ),
    ).part.window!.matrix;
    // What lies to the right in the model stands above in the view.
    near([turned[0] * 10 + turned[4], turned[1] * 10 + turned[5]], [0, -10]);
  });

  test('rows and columns in one entity', () => {
    const { part, design } = only(
      file(insert('b', [10, 0], [20, 0], [70, 3], [71, 2], [44, 10], [45, 20]), section('BLOCKS', block('b', line()))),
    );
    expect(design.definitions[part.definition!]).toMatchObject({ name: 'b 3 × 2', parts: 6 });
    near(part.box, [1, -26, 24, -2]);
  });

  test('a block within itself, and one that is missing, are said and do not hang', () => {
    const circle = read(
      file(
        insert('a', [10, 0], [20, 0]) + insert('nowhere', [10, 0], [20, 0]),
        section('BLOCKS', block('a', insert('b', [10, 1], [20, 1])) + block('b', insert('a', [10, 1], [20, 1]))),
      ),
    );
    expect(circle.notes.join(' ')).toMatch(/a: a block that contains itself/);
    expect(circle.notes.join(' ')).toMatch(/1 placement of a block that the file does not hold: nowhere/);
  });

  test('layouts are pages, with what is on them', () => {
    const layout = (name: string, record: string, tab: number): string =>
      groups(
        [0, 'LAYOUT'],
        [5, `L${tab}`],
        [100, 'AcDbPlotSettings'],
        [1, 'plotter'],
        [100, 'AcDbLayout'],
        [1, name],
        [71, tab],
        [10, 0],
        [20, 0],
        [11, 420],
        [21, 297],
        [330, record],
      );
    const record = (handle: string, name: string): string => groups([0, 'BLOCK_RECORD'], [5, handle], [2, name]);
    const design = read(
      file(
        line() + line('0', [67, 1]),
        section('TABLES', record('A1', '*Model_Space') + record('A2', '*Paper_Space') + record('A3', '*Paper_Space0')) +
          section('BLOCKS', block('*Paper_Space0', line() + line())) +
          section('OBJECTS', layout('Model', 'A1', 0) + layout('Sheet 2', 'A3', 2) + layout('Sheet 1', 'A2', 1)),
      ),
    );
    expect(design.pages.map((p) => p.name)).toEqual(['Model', 'Sheet 1', 'Sheet 2']);
    expect(design.parts.map((p) => p.page)).toEqual([0, 1, 2, 2]);
    near(design.pages[1]?.box, [0, -297, 420, 0]);
  });
});

describe('bad input', () => {
  test('a file that was cut off is read to there, and the place is named', () => {
    const text = file(line() + line() + line());
    const cut = text.indexOf('4\n', text.lastIndexOf('LINE'));
    const design = read(text.slice(0, cut));
    expect(design.parts.length).toBeGreaterThanOrEqual(2);
    expect(design.notes[0]).toMatch(
      /^The file (?:ends at byte \d+ without the mark|is damaged at byte \d+: the file ends after a group code)/,
    );
  });

  test('damage in the middle: what stands before and after it is read', () => {
    const text = file(line('one') + line('two') + line('three'));
    const at = text.indexOf('two') + 4;
    const hurt = `${text.slice(0, at)}§§ rubbish\n${text.slice(at)}`;
    const design = read(hurt);
    expect(design.parts.map((p) => p.category)).toEqual(['one', 'two', 'three']);
    expect(design.notes[0]).toMatch(
      new RegExp(
        `damaged at byte ${at}: “.*rubbish” stands where a group code should be. 3 parts could be read before and after it`,
      ),
    );
  });

  test('damaged binary data are taken up again at the next record', () => {
    const bytes = Buffer.from(binaryOf(file(line('one') + line('two') + line('three'))));
    const at = bytes.indexOf('two');
    bytes.fill(0xee, at - 2, at + 2);
    const design = read(Uint8Array.from(bytes));
    expect(design.parts.map((p) => p.category)).toEqual(expect.arrayContaining(['one', 'three']));
    expect(design.notes[0]).toMatch(/^The file is damaged at byte/);
  });

  test('coordinates that are no numbers or absurd are kept but not drawn', () => {
    const design = read(
      file(line().replace('10\n1\n', '10\nNaN\n') + line().replace('10\n1\n', '10\n1e300\n') + line()),
    );
    expect(design.parts).toHaveLength(3);
    expect(design.notes.join()).toMatch(/coordinates that are no numbers or absurdly large/);
    near(design.pages[0]?.box, [0, -6, 4, -2]);
  });

  test('too many entities are refused with a sentence', () => {
    expect(() => readDxf(bytesOf(file(line().repeat(30))), { ...defaultLimits, elements: 20 })).toThrow(
      /more than 20 entities, which is more than Ovrel reads part by part/,
    );
  });

  test('code pages: the one that the file names, UTF-8 from 2007 on, and neither where the bytes are of another', () => {
    const words = (text: Uint8Array): string | undefined => read(text).parts[0]?.lettering?.runs[0]?.text;
    const text = (version: string, page: string): string =>
      section('HEADER', groups([9, '$ACADVER'], [1, version], [9, '$DWGCODEPAGE'], [3, page])) +
      section('ENTITIES', groups([0, 'TEXT'], [8, '0'], [10, 0], [20, 0], [40, 1], [1, '@@'])) +
      groups([0, 'EOF']);
    const put = (t: string, bytes: Buffer): Uint8Array =>
      Uint8Array.from(Buffer.concat([Buffer.from(t.split('@@')[0]!), bytes, Buffer.from(t.split('@@')[1]!)]));
    expect(words(put(text('AC1015', 'ANSI_1251'), Buffer.of(0xcf, 0xe8, 0xf0, 0xf1)))).toBe('Пирс');
    expect(words(put(text('AC1021', 'ANSI_1252'), Buffer.from('Größe')))).toBe('Größe');
    const wrong = put(text('AC1021', 'ANSI_1252'), Buffer.from('Größe', 'latin1'));
    expect(words(wrong)).toBe('Größe');
    expect(read(wrong).notes.join()).toMatch(/1 text not in the encoding that the file names/);
  });

  test('what is no drawing at all says so', () => {
    for (const bytes of [bytesOf('0\nSECTION\n2\nNOTHING\n0\nEOF\n'), bytesOf('hello\nworld\n')])
      expect(() => read(bytes)).toThrow(ReadError);
    expect(() => read(new Uint8Array())).toThrow(/empty/);
  });
});

test('what the writer writes is what the reader reads', () => {
  const d = new DxfWriter({ units: 6 })
    .layer('a', { colour: '#112233', weight: 0.35, lineType: 'DASH' })
    .lineType('DASH', [3, -1])
    .block('b', [1, 1], (b) => b.circle([1, 1], 2));
  d.line([0, 0], [3, 4], { layer: 'a' })
    .arc([0, 0], 2, 0, 90)
    .polyline(
      [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
      true,
    )
    .text([1, 2], 3, 'Größe ⌀', { turn: 30 })
    .paragraph([0, 0], 1, 20, 'one\ntwo')
    .placement('b', [5, 5], { turn: 45, attributes: [{ tag: 'T', at: [5, 6], height: 1, words: 'x' }] })
    .hatch(
      [
        [0, 0],
        [2, 0],
        [2, 2],
      ],
      { angle: 45, distance: 0.1 },
    );
  const design = read(Uint8Array.from(Buffer.from(d.finish())));
  expect(design.notes).toEqual([]);
  expect(design.origin.units).toBe('m');
  expect(design.parts.map((p) => p.kind)).toEqual([
    'line',
    'arc',
    'polyline',
    'text',
    'text',
    'placement',
    'attribute',
    'hatch',
  ]);
  expect(design.parts[0]?.props).toEqual({ colour: '#112233', 'line type': 'DASH', 'line weight': 0.35 });
  expect(design.parts[3]?.lettering?.runs[0]?.text).toBe('Größe ⌀');
  expect(design.lineTypes).toEqual({ dash: [3, -1] });
  expect(read(drawFraming(framings[0]!.framing)).parts).toHaveLength(191);
});

describe('lines that run beside one another, and frames of tolerances', () => {
  const corner = (x: number, y: number, mx: number, my: number, ...offsets: number[]): (readonly [number, Value])[] => [
    [11, x],
    [21, y],
    [31, 0],
    [12, 1],
    [22, 0],
    [32, 0],
    [13, mx],
    [23, my],
    [33, 0],
    ...offsets.flatMap((o): (readonly [number, Value])[] => [
      [74, 2],
      [41, o],
      [41, 0],
      [75, 0],
    ]),
  ];

  test('each line of a multiline goes along the mitres', () => {
    const { part, design } = only(
      file(
        groups(
          [0, 'MLINE'],
          [5, '7'],
          [8, 'walls'],
          [2, 'CAVITY'],
          [70, 0],
          [71, 1],
          [72, 2],
          [73, 2],
          [10, 0],
          [20, 0],
          ...corner(0, 0, 0, 1, 0, -90),
          ...corner(1000, 0, 0, 1, 0, -90),
        ),
      ),
    );
    expect(part).toMatchObject({
      kind: 'multiline',
      subpaths: 2,
      props: { lines: 2, 'multiline style': 'CAVITY' },
      box: [0, 0, 1000, 90],
    });
    expect(pointsOf({ part, design })).toEqual([
      [0, 0],
      [1000, 0],
      [0, 90],
      [1000, 90],
    ]);
    expect(design.notes).toEqual([]);
  });

  test('a closed multiline comes round', () => {
    const { part, design } = only(
      file(
        groups(
          [0, 'MLINE'],
          [5, '7'],
          [8, '0'],
          [71, 3],
          ...corner(0, 0, 1, 1, 0),
          ...corner(100, 0, -1, 1, 0),
          ...corner(50, 80, 0, -1, 0),
        ),
      ),
    );
    expect([part.subpaths, design.geometry.closed[part.firstSubpath]]).toEqual([1, 1]);
  });

  test('a frame of tolerances says its signs, and has a cell around each', () => {
    const { part } = only(
      file(
        groups(
          [0, 'TOLERANCE'],
          [5, '8'],
          [8, '0'],
          [3, 'STANDARD'],
          [1, '{\\Fgdt;j}%%v{\\Fgdt;n}0.2{\\Fgdt;m}%%vA%%vB%%v'],
          [10, 100],
          [20, 50],
          [11, 1],
          [21, 0],
        ),
      ),
    );
    expect(part).toMatchObject({ kind: 'tolerance frame', subpaths: 16, lettering: { words: '⌖ | ⌀0.2Ⓜ | A | B' } });
    expect(part.box?.[0]).toBeCloseTo(100, 6);
    expect(((part.box?.[1] ?? 0) + (part.box?.[3] ?? 0)) / 2).toBeCloseTo(-50, 6);
  });
});

describe('viewports', () => {
  const layer = (handle: string, name: string): string =>
    groups([0, 'LAYER'], [5, handle], [2, name], [70, 0], [62, 7]);
  const tables = section(
    'TABLES',
    groups([0, 'TABLE'], [2, 'LAYER']) + layer('A1', 'walls') + layer('A2', 'notes') + groups([0, 'ENDTAB']),
  );
  const port = (...more: (readonly [number, Value])[]): string =>
    groups(
      [0, 'VIEWPORT'],
      [5, 'B1'],
      [67, 1],
      [8, '0'],
      [10, 100],
      [20, 100],
      [40, 200],
      [41, 100],
      [68, 1],
      [69, 2],
      [90, 65536],
      [12, 0],
      [22, 0],
      [45, 100],
      ...more,
    );

  test('layers that one freezes are not seen through it', () => {
    const design = read(file(line('walls') + line('notes') + port([331, 'A2']), tables));
    expect(design.parts.find((p) => p.window)?.window?.without).toEqual(new Set(['notes']));
    expect(svgOf(design, 1)).toContain('data-layer="walls"');
    expect(svgOf(design, 1)).not.toContain('data-layer="notes"');
  });

  test('older files name them', () =>
    expect(
      read(file(port([1001, 'ACAD'], [1000, 'MVIEW'], [1003, 'WALLS']), tables)).parts[0]?.window?.without,
    ).toEqual(new Set(['walls'])));

  test('a border that is no rectangle is the outline of the entity that it names', () => {
    const border = groups(
      [0, 'LWPOLYLINE'],
      [5, 'C1'],
      [67, 1],
      [8, '0'],
      [90, 3],
      [70, 1],
      [10, 20],
      [20, 60],
      [10, 180],
      [20, 60],
      [10, 100],
      [20, 140],
    );
    const design = read(file(line('walls') + border + port([340, 'c1']), tables));
    expect(design.parts.find((p) => p.window)?.window).toMatchObject({
      clip: [20, -140, 180, -60],
      outline: [20, -60, 180, -60, 100, -140],
    });
    expect(svgOf(design, 1)).toContain('<clipPath id="w1"><path d="M20 -60L180 -60L100 -140Z"/>');
  });
});
