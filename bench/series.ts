/** Thirty versions of files as programs would save them: deterministic generators for the storage figures. */
import pako from 'pako';

export interface Series {
  readonly name: string;
  readonly ending: string;
  readonly group: 'text' | 'mesh' | 'container' | 'picture' | 'renumbered';
  readonly version: (n: number) => Uint8Array;
}

const utf8 = new TextEncoder();

function randomOf(seed: number): (n: number) => number {
  let s = (seed * 2654435761) >>> 0 || 1;
  return (n) => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) % n;
  };
}

/** Lines of text in which each version changes one in a hundred, at random places. */
function scattered(
  make: (r: (n: number) => number, i: number) => string,
  count: number,
  wrap: (body: string) => string,
): (n: number) => Uint8Array {
  const states: string[][] = [];
  return (n) => {
    while (states.length <= n) {
      const k = states.length;
      const before = states[k - 1];
      if (!before) {
        const r = randomOf(1);
        states.push(Array.from({ length: count }, (_, i) => make(r, i)));
        continue;
      }
      const r = randomOf(100 + k);
      const next = [...before];
      for (let e = 0; e < count / 100; e++) {
        const i = r(next.length);
        next[i] = (next[i] as string).replace(/\d+\.\d+/, () => (r(9_000_000) / 1000).toFixed(3));
      }
      states.push(next);
    }
    return utf8.encode(wrap((states[n] as string[]).join('\n')));
  };
}

const coordinate = (r: (n: number) => number): string => (r(40_000_000) / 1000).toFixed(3);

const step = (r: (n: number) => number, i: number): string => {
  const id = i + 100;
  switch (r(5)) {
    case 0:
    case 1:
      return `#${id}=CARTESIAN_POINT('',(${coordinate(r)},${coordinate(r)},${coordinate(r)}));`;
    case 2:
      return `#${id}=DIRECTION('',(${(r(2000) / 1000 - 1).toFixed(6)},${(r(2000) / 1000 - 1).toFixed(6)},0.000));`;
    case 3:
      return `#${id}=AXIS2_PLACEMENT_3D('',#${id - 1 - r(50)},#${id - 1 - r(50)},#${id - 1 - r(50)});`;
    default:
      return `#${id}=EDGE_CURVE('',#${id - 1 - r(90)},#${id - 1 - r(90)},#${id - 1 - r(90)},.T.);`;
  }
};
const ifc = (r: (n: number) => number, i: number): string => {
  const id = i + 20;
  const guid = Array.from(
    { length: 22 },
    () => '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$'[r(64)],
  ).join('');
  switch (r(6)) {
    case 0:
    case 1:
      return `#${id}= IFCCARTESIANPOINT((${coordinate(r)},${coordinate(r)},${(r(4) * 3.25).toFixed(2)}));`;
    case 2:
      return `#${id}= IFCPOLYLINE((#${id - 1 - r(15)},#${id - 1 - r(15)},#${id - 1 - r(15)}));`;
    case 3:
      return `#${id}= IFCWALLSTANDARDCASE('${guid}',#5,'Wall ${r(900)}',$,$,#${id - 1 - r(15)},#${id - 2 - r(15)},'${r(900_000)}');`;
    case 4:
      return `#${id}= IFCPROPERTYSINGLEVALUE('Length',$,IFCLENGTHMEASURE(${coordinate(r)}),$);`;
    default:
      return `#${id}= IFCLOCALPLACEMENT(#${id - 1 - r(15)},#${id - 1 - r(15)});`;
  }
};
const dxf = (r: (n: number) => number, i: number): string =>
  `  0\nLINE\n  5\n${(i + 256).toString(16).toUpperCase()}\n100\nAcDbEntity\n  8\n${['WALLS', 'GRID', 'STEEL', 'TEXT'][r(4)]}\n100\nAcDbLine\n 10\n${coordinate(r)}\n 20\n${coordinate(r)}\n 30\n0.0\n 11\n${coordinate(r)}\n 21\n${coordinate(r)}\n 31\n0.0`;
const svg = (r: (n: number) => number, i: number): string =>
  `<path id="p${i}" d="M${coordinate(r)},${coordinate(r)} c${(r(900) / 10).toFixed(1)},${(r(900) / 10).toFixed(1)} ${(r(900) / 10).toFixed(1)},0 ${(r(900) / 10).toFixed(1)},${(r(90) / 10).toFixed(1)}" style="fill:none;stroke:#${['17212b', '6b2d5c', '0f766e'][r(3)]};stroke-width:0.5"/>`;

const wraps = {
  step: (body: string) =>
    `ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\n${body}\nENDSEC;\nEND-ISO-10303-21;\n`,
  dxf: (body: string) => `  0\nSECTION\n  2\nENTITIES\n${body}\n  0\nENDSEC\n  0\nEOF\n`,
  svg: (body: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40000 40000">\n${body}\n</svg>\n`,
};

/** Every line gets another number in every version, as by a program that numbers anew on each save. */
const renumbered =
  (of: (n: number) => Uint8Array, pattern: RegExp, radix: 10 | 16): ((n: number) => Uint8Array) =>
  (n) => {
    const shift = 1000 + n * 7919;
    return utf8.encode(
      new TextDecoder()
        .decode(of(n))
        .replace(
          pattern,
          (_, lead: string, id: string) => lead + (parseInt(id, radix) + shift).toString(radix).toUpperCase(),
        ),
    );
  };

/** Vertices of a bumpy surface; each version moves one region of about a tenth of it. */
function surface(side: number, n: number): Float32Array {
  const out = new Float32Array(side * side * 3);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const i = (y * side + x) * 3;
      out.set(
        [
          x * 2.5 + Math.sin(x * 12.9898 + y * 78.233) * 0.2,
          y * 2.5 + Math.cos(x * 4.1 + y * 3.7) * 0.2,
          Math.sin(x / 9) * Math.cos(y / 7) * 40,
        ],
        i,
      );
    }
  }
  for (let v = 1; v <= n; v++) {
    const r = randomOf(v);
    const w = Math.floor(side * 0.3);
    const x0 = r(side - w);
    const y0 = r(side - w);
    const lift = (r(1000) - 500) / 97;
    for (let y = y0; y < y0 + w; y++)
      for (let x = x0; x < x0 + w; x++) out[(y * side + x) * 3 + 2] = (out[(y * side + x) * 3 + 2] as number) + lift;
  }
  return out;
}

function stl(n: number): Uint8Array {
  const side = 170;
  const at = surface(side, n);
  const cells = (side - 1) ** 2;
  const out = new DataView(new ArrayBuffer(84 + cells * 2 * 50));
  out.setUint32(80, cells * 2, true);
  let p = 84;
  for (let y = 0; y + 1 < side; y++) {
    for (let x = 0; x + 1 < side; x++) {
      const a = y * side + x;
      const b = a + 1;
      const c = a + side;
      const d = c + 1;
      for (const [i, j, k] of [
        [a, b, d],
        [a, d, c],
      ] as const) {
        const edge = (to: number, q: number): number => (at[to * 3 + q] as number) - (at[i * 3 + q] as number);
        const cross = (p_: number, q: number): number => edge(j, p_) * edge(k, q) - edge(j, q) * edge(k, p_);
        const normal = [cross(1, 2), cross(2, 0), cross(0, 1)];
        const size = Math.hypot(...normal) || 1;
        for (const q of normal) {
          out.setFloat32(p, q / size, true);
          p += 4;
        }
        for (const w of [i, j, k])
          for (let q = 0; q < 3; q++) {
            out.setFloat32(p, at[w * 3 + q] as number, true);
            p += 4;
          }
        p += 2;
      }
    }
  }
  return new Uint8Array(out.buffer);
}

function glb(n: number): Uint8Array {
  const side = 220;
  const at = surface(side, n);
  const cells = (side - 1) ** 2;
  const index = new Uint32Array(cells * 6);
  for (let y = 0, i = 0; y + 1 < side; y++)
    for (let x = 0; x + 1 < side; x++) {
      const a = y * side + x;
      index.set([a, a + 1, a + side + 1, a, a + side + 1, a + side], i);
      i += 6;
    }
  let json = JSON.stringify({
    asset: { version: '2.0' },
    buffers: [{ byteLength: at.byteLength + index.byteLength }],
    bufferViews: [
      { buffer: 0, byteLength: at.byteLength },
      { buffer: 0, byteOffset: at.byteLength, byteLength: index.byteLength },
    ],
    accessors: [
      { bufferView: 0, componentType: 5126, count: side * side, type: 'VEC3' },
      { bufferView: 1, componentType: 5125, count: index.length, type: 'SCALAR' },
    ],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
  });
  json = json.padEnd(Math.ceil(json.length / 4) * 4);
  const out = new DataView(new ArrayBuffer(12 + 8 + json.length + 8 + at.byteLength + index.byteLength));
  const bytes = new Uint8Array(out.buffer);
  bytes.set(utf8.encode('glTF'));
  out.setUint32(4, 2, true);
  out.setUint32(8, out.byteLength, true);
  out.setUint32(12, json.length, true);
  bytes.set(utf8.encode(`JSON${json}`), 16);
  out.setUint32(20 + json.length, at.byteLength + index.byteLength, true);
  bytes.set(utf8.encode('BIN\0'), 24 + json.length);
  bytes.set(new Uint8Array(at.buffer), 28 + json.length);
  bytes.set(new Uint8Array(index.buffer), 28 + json.length + at.byteLength);
  return bytes;
}

export interface Member {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly stored?: boolean;
}

/** A ZIP as office and modelling programs write it: plain zlib at level 6, time stamp of the save. */
export function zip(members: readonly Member[], stamp: number, level: 1 | 6 | 9 = 6): Uint8Array {
  const local: Uint8Array[] = [];
  const central: Uint8Array[] = [];
  let at = 0;
  for (const { name, bytes, stored } of members) {
    const data = stored ? bytes : pako.deflateRaw(bytes, { level });
    const head = new DataView(new ArrayBuffer(30 + name.length));
    const fields = (v: DataView, o: number): void => {
      v.setUint16(o, 20, true);
      v.setUint16(o + 4, stored ? 0 : 8, true);
      v.setUint32(o + 6, stamp, true);
      v.setUint32(o + 10, crc32(bytes), true);
      v.setUint32(o + 14, data.length, true);
      v.setUint32(o + 18, bytes.length, true);
      v.setUint16(o + 22, name.length, true);
    };
    head.setUint32(0, 0x04034b50, true);
    fields(head, 4);
    new Uint8Array(head.buffer).set(utf8.encode(name), 30);
    const entry = new DataView(new ArrayBuffer(46 + name.length));
    entry.setUint32(0, 0x02014b50, true);
    entry.setUint16(4, 20, true);
    fields(entry, 6);
    entry.setUint32(42, at, true);
    new Uint8Array(entry.buffer).set(utf8.encode(name), 46);
    local.push(new Uint8Array(head.buffer), data);
    central.push(new Uint8Array(entry.buffer));
    at += head.byteLength + data.length;
  }
  const size = central.reduce((n, c) => n + c.length, 0);
  const end = new DataView(new ArrayBuffer(22));
  end.setUint32(0, 0x06054b50, true);
  end.setUint16(8, members.length, true);
  end.setUint16(10, members.length, true);
  end.setUint32(12, size, true);
  end.setUint32(16, at, true);
  return Uint8Array.from(Buffer.concat([...local, ...central, new Uint8Array(end.buffer)]));
}

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  for (let k = 0; k < 8; k++) n = n & 1 ? 0xedb88320 ^ (n >>> 1) : n >>> 1;
  return n;
});
export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const b of bytes) c = (table[(c ^ b) & 255] as number) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

/** A PNG of RGB pixels, every row with the "up" filter, plain zlib. */
export function png(
  width: number,
  height: number,
  pixel: (x: number, y: number) => readonly [number, number, number],
  level: 6 | 9 = 6,
): Uint8Array {
  const rows = new Uint8Array(height * (1 + width * 3));
  const above = new Uint8Array(width * 3);
  for (let y = 0, p = 0; y < height; y++) {
    rows[p++] = 2;
    for (let x = 0; x < width; x++) {
      const colour = pixel(x, y);
      for (let q = 0; q < 3; q++) {
        rows[p++] = (colour[q] as number) - (above[x * 3 + q] as number);
        above[x * 3 + q] = colour[q] as number;
      }
    }
  }
  const chunk = (type: string, data: Uint8Array): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const out = Buffer.alloc(body.length + 8);
    out.writeUInt32BE(data.length);
    body.copy(out, 4);
    out.writeUInt32BE(crc32(body), body.length + 4);
    return out;
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  const packed = pako.deflate(rows, { level, strategy: pako.constants.Z_FILTERED });
  const data: Buffer[] = [];
  for (let i = 0; i < packed.length; i += 8192) data.push(chunk('IDAT', packed.subarray(i, i + 8192)));
  return Uint8Array.from(
    Buffer.concat([
      Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
      chunk('IHDR', head),
      ...data,
      chunk('IEND', new Uint8Array()),
    ]),
  );
}

/** A painting with grain; each version repaints one region. */
function painting(
  width: number,
  height: number,
  n: number,
  seed = 0,
): (x: number, y: number) => [number, number, number] {
  const noise = (x: number, y: number): number =>
    (Math.imul(x * 374761393 + y * 668265263 + seed, 1274126177) >>> 26) & 15;
  const strokes = Array.from({ length: n }, (_, v) => {
    const r = randomOf(v + 7 + seed);
    const w = Math.floor(width / 8);
    return [r(width - w), r(height - w), w, r(200)] as const;
  });
  return (x, y) => {
    let [a, b, c] = [60 + (x * 90) / width + noise(x, y), 110 + (y * 80) / height + noise(y, x), 150 + noise(x + 7, y)];
    for (const [x0, y0, w, tone] of strokes)
      if (x >= x0 && x < x0 + w && y >= y0 && y < y0 + w) [a, b, c] = [tone + noise(x, y), b, (c + tone) / 2];
    return [a & 255, b & 255, c & 255];
  };
}

const sheet = scattered(
  (r, i) =>
    `<row r="${i + 1}"><c r="A${i + 1}" t="s"><v>${r(3000)}</v></c><c r="B${i + 1}"><v>${coordinate(r)}</v></c><c r="C${i + 1}" s="2"><f>B${i + 1}*1.19</f><v>${coordinate(r)}</v></c></row>`,
  9000,
  (b) => `<?xml version="1.0"?><worksheet><sheetData>${b}</sheetData></worksheet>`,
);
const words =
  'deck pile fender gangway bearing hinge bolt plate timber tide shelter gutter rail stair quay pontoon'.split(' ');
const prose = scattered(
  (r) =>
    `<text:p text:style-name="P${r(9)}">${Array.from({ length: 12 + r(30) }, () => words[r(words.length)]).join(' ')} ${coordinate(r)}</text:p>`,
  4000,
  (b) => `<office:document-content>${b}</office:document-content>`,
);
const mesh3mf = scattered(
  (r) => `<vertex x="${coordinate(r)}" y="${coordinate(r)}" z="${coordinate(r)}"/>`,
  20_000,
  (b) =>
    `<model unit="millimeter"><resources><object id="1"><mesh><vertices>${b}</vertices></mesh></object></resources></model>`,
);
const noiseBytes = (n: number, seed: number): Uint8Array => {
  const r = randomOf(seed);
  return Uint8Array.from({ length: n }, () => r(256));
};
const styles = utf8.encode(Array.from({ length: 400 }, (_, i) => `<style name="s${i}" size="${i % 30}"/>`).join(''));
const stamp = (n: number): number => 0x5b5a0000 + n * 37;

const stepText = scattered(step, 40_000, wraps.step);
const ifcText = scattered(ifc, 30_000, wraps.step);
const dxfText = scattered(dxf, 14_000, wraps.dxf);

export const allSeries: readonly Series[] = [
  { name: 'DXF, 1 % scattered', ending: 'dxf', group: 'text', version: dxfText },
  { name: 'STEP, 1 % scattered', ending: 'stp', group: 'text', version: stepText },
  { name: 'IFC, 1 % scattered', ending: 'ifc', group: 'text', version: ifcText },
  { name: 'SVG, 1 % scattered', ending: 'svg', group: 'text', version: scattered(svg, 9000, wraps.svg) },
  {
    name: 'DXF, wholly renumbered',
    ending: 'dxf',
    group: 'renumbered',
    version: renumbered(dxfText, /(\n {2}5\n)([0-9A-F]+)/g, 16),
  },
  {
    name: 'STEP, wholly renumbered',
    ending: 'stp',
    group: 'renumbered',
    version: renumbered(stepText, /(#)(\d+)/g, 10),
  },
  { name: 'IFC, wholly renumbered', ending: 'ifc', group: 'renumbered', version: renumbered(ifcText, /(#)(\d+)/g, 10) },
  { name: 'STL, region moved', ending: 'stl', group: 'mesh', version: stl },
  { name: 'GLB, region moved', ending: 'glb', group: 'mesh', version: glb },
  {
    name: 'XLSX, one sheet changed',
    ending: 'xlsx',
    group: 'container',
    version: (n) =>
      zip(
        [
          { name: '[Content_Types].xml', bytes: styles },
          { name: 'xl/worksheets/sheet1.xml', bytes: sheet(n) },
          { name: 'xl/worksheets/sheet2.xml', bytes: sheet(0) },
          { name: 'xl/styles.xml', bytes: styles },
        ],
        stamp(n),
      ),
  },
  {
    name: 'ODT, text changed',
    ending: 'odt',
    group: 'container',
    version: (n) =>
      zip(
        [
          { name: 'mimetype', bytes: utf8.encode('application/vnd.oasis.opendocument.text'), stored: true },
          { name: 'content.xml', bytes: prose(n) },
          { name: 'styles.xml', bytes: styles },
          { name: 'Pictures/1.jpg', bytes: noiseBytes(60_000, 5), stored: true },
        ],
        stamp(n),
      ),
  },
  {
    name: '3MF, mesh changed',
    ending: '3mf',
    group: 'container',
    version: (n) =>
      zip(
        [
          { name: '[Content_Types].xml', bytes: styles },
          { name: '3D/3dmodel.model', bytes: mesh3mf(n) },
        ],
        stamp(n),
      ),
  },
  {
    name: 'ORA, one layer repainted',
    ending: 'ora',
    group: 'container',
    version: (n) =>
      zip(
        [
          { name: 'mimetype', bytes: utf8.encode('image/openraster'), stored: true },
          { name: 'stack.xml', bytes: styles },
          ...[0, 1, 2, 3].map((layer) => ({
            name: `data/layer${layer}.png`,
            bytes: png(360, 360, painting(360, 360, layer === 2 ? n : 0, layer)),
            stored: true,
          })),
        ],
        stamp(n),
      ),
  },
  {
    name: 'PNG, one region repainted',
    ending: 'png',
    group: 'picture',
    version: (n) => png(1000, 700, painting(1000, 700, n)),
  },
];
