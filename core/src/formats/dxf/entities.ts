/**
 * What each kind of entity draws. Coordinates of the builder are those of the drawing, y upwards; its matrix leads to
 * the page.
 */
import type { Box } from '../../geometry/box.ts';
import type { GeometryBuilder } from '../../geometry/builder.ts';
import { Hash } from '../../geometry/hash.ts';
import { multiply, type Matrix } from '../../geometry/matrix.ts';
import type { HatchLine, Lettering, Part, Scalar } from '../../model/design.ts';
import { flip, flipped, planeOf } from './axes.ts';
import { ellipse, polyline, spline, sweepOf, turn, type Vertex } from './curves.ts';
import { EMBEDDED, find, keyOf, nameOf, numberOf, textOf, type DxfDocument, type Span } from './document.ts';
import { hatch } from './hatch.ts';
import { controlFrame, multiLine, singleLine } from './lettering.ts';

export interface Drawn {
  readonly kind: string;
  readonly name?: string;
  readonly props?: Readonly<Record<string, Scalar>>;
  readonly lettering?: Lettering;
  readonly transform?: Matrix;
  /** Bounds of words; bounds of geometry come from the builder. */
  readonly box?: Box | undefined;
  readonly hatch?: readonly HatchLine[];
  readonly window?: NonNullable<Part['window']>;
  /** Handle of the entity that gives the window's border. */
  readonly border?: string | undefined;
}

type Draw = (doc: DxfDocument, span: Span, into: GeometryBuilder) => Drawn;

const degrees = Math.PI / 180;

/** From the entity's own plane to the page. */
export function planeFor(doc: DxfDocument, span: Span, z = numberOf(doc.groups, span, 30, 0)): Matrix {
  const { groups: g } = doc;
  return find(g, span, 230) < 0 && find(g, span, 210) < 0
    ? flip
    : multiply(flip, planeOf(numberOf(g, span, 210, 0), numberOf(g, span, 220, 0), numberOf(g, span, 230, 1), z));
}

/** Values of every group with this code, in order. */
function all(doc: DxfDocument, { first, last }: Span, code: number): number[] {
  const { groups: g } = doc;
  const out: number[] = [];
  for (let i = first + 1; i < last && (g.codes[i] as number) < 1000 && g.codes[i] !== EMBEDDED; i++)
    if (g.codes[i] === code) out.push(g.number(i));
  return out;
}

const pairs = (x: readonly number[], y: readonly number[]): number[] => x.flatMap((v, i) => [v, y[i] ?? 0]);

const line: Draw = ({ groups: g }, span, into) => {
  into.setMatrix(flip);
  into.moveTo(numberOf(g, span, 10, 0), numberOf(g, span, 20, 0));
  into.lineTo(numberOf(g, span, 11, 0), numberOf(g, span, 21, 0));
  return { kind: 'line' };
};

const circle: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  into.setMatrix(planeFor(doc, span));
  ellipse(into, numberOf(g, span, 10, 0), numberOf(g, span, 20, 0), numberOf(g, span, 40, 0), 0, 1, 0, turn);
  return { kind: 'circle' };
};

const arc: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const from = numberOf(g, span, 50, 0) * degrees;
  into.setMatrix(planeFor(doc, span));
  ellipse(
    into,
    numberOf(g, span, 10, 0),
    numberOf(g, span, 20, 0),
    numberOf(g, span, 40, 0),
    0,
    1,
    from,
    sweepOf(from, numberOf(g, span, 51, 360) * degrees),
  );
  return { kind: 'arc' };
};

const ellipseEntity: Draw = ({ groups: g }, span, into) => {
  const from = numberOf(g, span, 41, 0);
  const to = numberOf(g, span, 42, turn);
  const down = numberOf(g, span, 230, 1) < 0;
  into.setMatrix(flip);
  ellipse(
    into,
    numberOf(g, span, 10, 0),
    numberOf(g, span, 20, 0),
    numberOf(g, span, 11, 1),
    numberOf(g, span, 21, 0),
    (down ? -1 : 1) * numberOf(g, span, 40, 1),
    from,
    sweepOf(from, to),
  );
  return { kind: 'ellipse' };
};

const widthProp = (width: number): Record<string, Scalar> => (width > 0 ? { width: Number(width.toPrecision(6)) } : {});

const lightPolyline: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const vertices: { x: number; y: number; bulge: number }[] = [];
  let width = numberOf(g, span, 43, 0);
  for (let i = span.first + 1; i < span.last && (g.codes[i] as number) < 1000; i++) {
    const code = g.codes[i] as number;
    const last = vertices.at(-1);
    if (code === 10) vertices.push({ x: g.number(i), y: 0, bulge: 0 });
    else if (code === 20 && last) last.y = g.number(i);
    else if (code === 42 && last) last.bulge = g.number(i);
    else if (code === 40 && last) width = Math.max(width, g.number(i));
  }
  into.setMatrix(planeFor(doc, span, numberOf(g, span, 38, 0)));
  const closed = (numberOf(g, span, 70, 0) & 1) === 1;
  polyline(into, vertices, closed);
  return { kind: 'polyline', props: { ...widthProp(width), ...outlineProp(vertices, closed) } };
};

/** Closed by its flag, or by ending where it begins. */
function outlineProp(
  vertices: readonly { readonly x: number; readonly y: number }[],
  closed: boolean,
): Record<string, Scalar> {
  const [first, last] = [vertices[0], vertices.at(-1)];
  const returns = vertices.length > 2 && first?.x === last?.x && first?.y === last?.y;
  return vertices.length > 2 && (closed || returns) ? { outline: 'closed' } : {};
}

/** POLYLINE with its VERTEX records. */
export function oldPolyline(doc: DxfDocument, span: Span, vertices: readonly Span[], into: GeometryBuilder): Drawn {
  const { groups: g } = doc;
  const flags = numberOf(g, span, 70, 0);
  const closed = (flags & 1) === 1;
  const solid = flags & (8 | 16 | 64);
  const at = (v: Span): Vertex => ({
    x: numberOf(g, v, 10, 0),
    y: numberOf(g, v, 20, 0),
    bulge: solid ? 0 : numberOf(g, v, 42, 0),
  });
  into.setMatrix(solid ? flip : planeFor(doc, span));
  if (flags & 64) return faces(doc, vertices, into);
  if (flags & 16)
    return mesh(
      vertices.filter((v) => !(numberOf(g, v, 70, 0) & 16)).map(at),
      numberOf(g, span, 71, 0),
      numberOf(g, span, 72, 0),
      into,
    );
  // Control points of a fitted curve (16) are a frame, not the line.
  polyline(into, vertices.filter((v) => !(numberOf(g, v, 70, 0) & 16)).map(at), closed);
  return {
    kind: flags & 8 ? '3D polyline' : 'polyline',
    props: {
      ...widthProp(Math.max(numberOf(g, span, 40, 0), numberOf(g, span, 41, 0))),
      ...outlineProp(vertices.map(at), closed),
    },
  };
}

/** Polyface mesh: vertices, then faces that name them by number; edges with a negative number are not drawn. */
function faces(doc: DxfDocument, records: readonly Span[], into: GeometryBuilder): Drawn {
  const { groups: g } = doc;
  const corners: [number, number][] = [];
  for (const record of records) {
    const flags = numberOf(g, record, 70, 0);
    if (flags & 64) corners.push([numberOf(g, record, 10, 0), numberOf(g, record, 20, 0)]);
    else if (flags & 128) {
      const ring = [71, 72, 73, 74].map((code) => numberOf(g, record, code, 0)).filter((n) => n !== 0);
      ring.forEach((n, k) => {
        const p = corners[Math.abs(n) - 1];
        const q = corners[Math.abs(ring[(k + 1) % ring.length] as number) - 1];
        if (n < 0 || !p || !q) return;
        into.moveTo(...p);
        into.lineTo(...q);
      });
    }
  }
  return { kind: 'mesh' };
}

function mesh(points: readonly Vertex[], rows: number, columns: number, into: GeometryBuilder): Drawn {
  const run = (at: (k: number) => Vertex | undefined, count: number): void => {
    for (let k = 0; k < count; k++) {
      const p = at(k);
      if (p) (k ? into.lineTo.bind(into) : into.moveTo.bind(into))(p.x, p.y);
    }
  };
  if (rows * columns <= points.length) {
    for (let r = 0; r < rows; r++) run((k) => points[r * columns + k], columns);
    for (let c = 0; c < columns; c++) run((k) => points[k * columns + c], rows);
  }
  return { kind: 'mesh' };
}

const splineEntity: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  into.setMatrix(flip);
  spline(into, {
    degree: numberOf(g, span, 71, 3),
    closed: (numberOf(g, span, 70, 0) & 1) === 1,
    knots: all(doc, span, 40),
    weights: all(doc, span, 41),
    control: pairs(all(doc, span, 10), all(doc, span, 20)),
    fit: pairs(all(doc, span, 11), all(doc, span, 21)),
  });
  return { kind: 'spline' };
};

/** SOLID and TRACE: the third and fourth corners are crossed. */
const solid: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const x3 = numberOf(g, span, 12, 0);
  const y3 = numberOf(g, span, 22, 0);
  into.setMatrix(planeFor(doc, span));
  polyline(
    into,
    [
      [numberOf(g, span, 10, 0), numberOf(g, span, 20, 0)],
      [numberOf(g, span, 11, 0), numberOf(g, span, 21, 0)],
      [numberOf(g, span, 13, x3), numberOf(g, span, 23, y3)],
      [x3, y3],
    ].map(([x = 0, y = 0]) => ({ x, y, bulge: 0 })),
    true,
  );
  return { kind: 'solid', props: { filled: 'yes' } };
};

const face: Draw = ({ groups: g }, span, into) => {
  into.setMatrix(flip);
  polyline(
    into,
    [0, 1, 2, 3].map((k) => ({
      x: numberOf(g, span, 10 + k, numberOf(g, span, 12, 0)),
      y: numberOf(g, span, 20 + k, numberOf(g, span, 22, 0)),
      bulge: 0,
    })),
    true,
  );
  return { kind: '3D face' };
};

const point: Draw = ({ groups: g }, span, into) => {
  into.setMatrix(flip);
  into.moveTo(numberOf(g, span, 10, 0), numberOf(g, span, 20, 0));
  into.lineTo(numberOf(g, span, 10, 0), numberOf(g, span, 20, 0));
  return { kind: 'point' };
};

const hatchEntity: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const filled = numberOf(g, span, 70, 0) === 1;
  const plane = planeFor(doc, span);
  into.setMatrix(plane);
  const lines = hatch(g, span, into).map((l) => onPage(l, plane));
  const pattern = nameOf(g, span, 2) ?? '';
  const scale = numberOf(g, span, 41, 1);
  const angle = numberOf(g, span, 52, 0);
  return {
    kind: 'hatch',
    name: filled ? 'solid hatch' : `hatch ${pattern}`,
    ...(filled ? {} : { hatch: lines }),
    props: filled
      ? { filled: 'yes', pattern: 'solid' }
      : {
          pattern,
          ...(scale === 1 ? {} : { 'pattern scale': Number(scale.toPrecision(6)) }),
          ...(angle === 0 ? {} : { 'pattern angle': angle }),
        },
  };
};

/** A family of lines, led from the hatch's plane to the page. */
function onPage(l: HatchLine, m: Matrix): HatchLine {
  const a = l.angle * degrees;
  const [x, y] = [m[0] * Math.cos(a) + m[2] * Math.sin(a), m[1] * Math.cos(a) + m[3] * Math.sin(a)];
  return {
    angle: Math.atan2(y, x) / degrees,
    x: m[0] * l.x + m[2] * l.y + m[4],
    y: m[1] * l.x + m[3] * l.y + m[5],
    dx: m[0] * l.dx + m[2] * l.dy,
    dy: m[1] * l.dx + m[3] * l.dy,
    dashes: l.dashes,
  };
}

const leader: Draw = (doc, span, into) => {
  into.setMatrix(flip);
  const x = all(doc, span, 10);
  const y = all(doc, span, 20);
  polyline(
    into,
    x.map((v, i) => ({ x: v, y: y[i] ?? 0, bulge: 0 })),
    false,
  );
  return { kind: 'leader' };
};

/** MULTILEADER: its context data name the lines ("LEADER_LINE{") and the words. */
const multiLeader: Draw = ({ groups: g }, span, into) => {
  into.setMatrix(flip);
  let inLine = false;
  let x = 0;
  let open = false;
  let words = '';
  let tx = NaN;
  let ty = NaN;
  let height = NaN;
  for (let i = span.first + 1; i < span.last && (g.codes[i] as number) < 1000; i++) {
    const code = g.codes[i] as number;
    if (code === 304) {
      const text = g.text(i).trim();
      if (text === 'LEADER_LINE{') [inLine, open] = [true, false];
      else if (!text.endsWith('{')) words = text;
    } else if (code === 305) inLine = false;
    else if (inLine && code === 10) x = g.number(i);
    else if (inLine && code === 20) {
      if (open) into.lineTo(x, g.number(i));
      else into.moveTo(x, g.number(i));
      open = true;
    } else if (code === 12 && Number.isNaN(tx)) tx = g.number(i);
    else if (code === 22 && Number.isNaN(ty)) ty = g.number(i);
    else if (code === 41 && Number.isNaN(height)) height = g.number(i);
  }
  return { kind: 'leader', ...(words ? { name: `leader “${words.slice(0, 48)}”`, props: { text: words } } : {}) };
};

const viewport: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const x = numberOf(g, span, 10, 0);
  const y = numberOf(g, span, 20, 0);
  const w = numberOf(g, span, 40, 0) / 2;
  const h = numberOf(g, span, 41, 0) / 2;
  const view = numberOf(g, span, 45, 0);
  into.setMatrix(flip);
  // Number 1 is the sheet itself.
  if (numberOf(g, span, 69, 2) !== 1)
    polyline(
      into,
      [
        [x - w, y - h],
        [x + w, y - h],
        [x + w, y + h],
        [x - w, y + h],
      ].map(([px = 0, py = 0]) => ({ x: px, y: py, bulge: 0 })),
      true,
    );
  const number = numberOf(g, span, 69, 2);
  const on = numberOf(g, span, 68, 1) !== 0;
  const scale = view > 0 ? (2 * h) / view : 0;
  const twist = numberOf(g, span, 51, 0) * degrees;
  const c = Math.cos(twist) * scale;
  const s = Math.sin(twist) * scale;
  const vx = numberOf(g, span, 12, 0) + numberOf(g, span, 17, 0);
  const vy = numberOf(g, span, 22, 0) + numberOf(g, span, 27, 0);
  // From model to paper in drawing coordinates, then written for y downwards.
  const matrix = flipped([c, s, -s, c, x - c * vx + s * vy, y - s * vx - c * vy]);
  return {
    kind: 'viewport',
    ...(number !== 1 && on && scale > 0 && Number.isFinite(scale)
      ? { window: { matrix, clip: [x - w, -y - h, x + w, -y + h] as const, ...frozenIn(doc, span) } }
      : {}),
    border: (numberOf(g, span, 90, 0) & 65536) === 65536 ? textOf(g, span, 340)?.trim().toUpperCase() : undefined,
    props: {
      'looks at': `${round(numberOf(g, span, 12, 0) + numberOf(g, span, 17, 0))}, ${round(numberOf(g, span, 22, 0) + numberOf(g, span, 27, 0))}`,
      ...(view > 0 && h > 0 ? { scale: `1:${round(view / (2 * h))}` } : {}),
    },
  };
};

/** Layers that a viewport freezes: by handle from R13 on, by name in the extended data of older files. */
function frozenIn(doc: DxfDocument, { first, last }: Span): { without?: ReadonlySet<string> } {
  const { groups: g } = doc;
  const out = new Set<string>();
  for (let i = first + 1; i < last; i++) {
    const code = g.codes[i] as number;
    if (code === 331 || code === 341) {
      const name = doc.layerNames.get(g.text(i).trim());
      if (name !== undefined) out.add(name);
    } else if (code === 1003) out.add(doc.layers.get(keyOf(g.text(i).trim()))?.name ?? g.text(i).trim());
  }
  return out.size ? { without: out } : {};
}

const round = (n: number): number => Number(n.toPrecision(6));

/** Parallel lines along a path: for each corner the direction of its mitre, and along it where each line goes. */
const multiline: Draw = ({ groups: g }, span, into) => {
  const corners: { x: number; y: number; mx: number; my: number; offsets: number[] }[] = [];
  let first = false;
  for (let i = span.first + 1; i < span.last && (g.codes[i] as number) < 1000; i++) {
    const code = g.codes[i] as number;
    const corner = corners.at(-1);
    if (code === 11) corners.push({ x: g.number(i), y: 0, mx: 0, my: 0, offsets: [] });
    else if (!corner) continue;
    else if (code === 21) corner.y = g.number(i);
    else if (code === 13) corner.mx = g.number(i);
    else if (code === 23) corner.my = g.number(i);
    else if (code === 74) first = true;
    else if (code === 41 && first) {
      // Further numbers are where the line is interrupted.
      corner.offsets.push(g.number(i));
      first = false;
    }
  }
  into.setMatrix(flip);
  const lines = corners.reduce((most, c) => Math.max(most, c.offsets.length), 0);
  const closed = (numberOf(g, span, 71, 0) & 2) === 2;
  const style = nameOf(g, span, 2);
  for (let k = 0; k < lines; k++)
    polyline(
      into,
      corners.map((c) => ({ x: c.x + c.mx * (c.offsets[k] ?? 0), y: c.y + c.my * (c.offsets[k] ?? 0), bulge: 0 })),
      closed,
    );
  return { kind: 'multiline', props: { lines, ...(style ? { 'multiline style': style } : {}) } };
};

/** A frame with geometrical tolerances. */
const tolerance: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const { written, frame } = controlFrame(g, span, Number(doc.header.get('$DIMTXT')?.[0]) || 2.5);
  into.setMatrix(written.transform);
  for (const [x0, y0, x1, y1] of frame) {
    into.moveTo(x0, y0);
    into.lineTo(x1, y1);
  }
  return { kind: 'tolerance frame', ...written };
};

const image: Draw = (doc, span, into) => {
  const { groups: g } = doc;
  const x = numberOf(g, span, 10, 0);
  const y = numberOf(g, span, 20, 0);
  const w = numberOf(g, span, 13, 1);
  const h = numberOf(g, span, 23, 1);
  const ux = numberOf(g, span, 11, 1) * w;
  const uy = numberOf(g, span, 21, 0) * w;
  const vx = numberOf(g, span, 12, 0) * h;
  const vy = numberOf(g, span, 22, 1) * h;
  into.setMatrix(flip);
  polyline(
    into,
    [
      [x, y],
      [x + ux, y + uy],
      [x + ux + vx, y + uy + vy],
      [x + vx, y + vy],
    ].map(([px = 0, py = 0]) => ({ x: px, y: py, bulge: 0 })),
    true,
  );
  const source = doc.pictures.get(textOf(g, span, 340)?.trim() ?? '');
  return {
    kind: 'image',
    props: { source: source ?? 'unknown picture' },
    ...(source ? { name: source.split(/[\\/]/).at(-1) ?? source } : {}),
  };
};

/** Lines without an end have no bounds; they are compared by what defines them. */
const endless =
  (kind: string): Draw =>
  ({ groups: g }, span) => ({
    kind,
    props: {
      through: `${round(numberOf(g, span, 10, 0))}, ${round(numberOf(g, span, 20, 0))}`,
      towards: `${round(numberOf(g, span, 11, 1))}, ${round(numberOf(g, span, 21, 0))}`,
    },
  });

const text: Draw = (doc, span) => ({ kind: 'text', ...singleLine(doc.groups, span, doc.styles, planeFor(doc, span)) });

const attribute: Draw = (doc, span) => {
  const tag = nameOf(doc.groups, span, 2) ?? '';
  const seen = singleLine(doc.groups, span, doc.styles, planeFor(doc, span));
  const hidden = (numberOf(doc.groups, span, 70, 0) & 1) === 1;
  return { kind: 'attribute', name: tag, ...seen, props: { ...seen.props, tag, ...(hidden ? { hidden: 'yes' } : {}) } };
};

/** What stands in a block for attributes that each placement fills in; drawn only where it is constant. */
const attributeDefinition: Draw = (doc, span) => {
  const tag = nameOf(doc.groups, span, 2) ?? '';
  const constant = (numberOf(doc.groups, span, 70, 0) & 2) === 2;
  const seen = singleLine(doc.groups, span, doc.styles, planeFor(doc, span), constant ? undefined : tag);
  return {
    kind: 'attribute definition',
    name: tag,
    ...seen,
    props: {
      ...seen.props,
      tag,
      ...(constant ? {} : { hidden: 'yes', 'by default': textOf(doc.groups, span, 1) ?? '' }),
    },
  };
};

const paragraph: Draw = (doc, span) => ({ kind: 'text', ...multiLine(doc.groups, span, doc.styles, flip) });

/** Entities that only their own program understands: known by a hash of what they hold, numbering aside. */
export const opaque =
  (kind: string): Draw =>
  ({ groups: g }, span, into) => {
    const hash = new Hash();
    for (let i = span.first + 1; i < span.last; i++) {
      const code = g.codes[i] as number;
      if (code === 5 || code === 102 || (code >= 320 && code < 370)) continue;
      hash.int(code);
      for (let k = g.from[i] as number; k < (g.to[i] as number); k++) hash.int(g.bytes[k] as number);
    }
    const x = numberOf(g, span, 10, NaN);
    const y = numberOf(g, span, 20, NaN);
    if (Number.isFinite(x) && Number.isFinite(y)) {
      into.setMatrix(flip);
      into.moveTo(x, y);
      into.lineTo(x, y);
    }
    return { kind, props: { content: `content ${hash.digest().slice(0, 8)}` } };
  };

/**
 * How each type of entity is drawn. Inserts, dimensions and old polylines need other records and are not among them.
 */
export const draws: Readonly<Record<string, Draw>> = {
  LINE: line,
  CIRCLE: circle,
  ARC: arc,
  ELLIPSE: ellipseEntity,
  LWPOLYLINE: lightPolyline,
  SPLINE: splineEntity,
  HELIX: splineEntity,
  SOLID: solid,
  TRACE: solid,
  '3DFACE': face,
  POINT: point,
  HATCH: hatchEntity,
  LEADER: leader,
  MULTILEADER: multiLeader,
  MLEADER: multiLeader,
  VIEWPORT: viewport,
  IMAGE: image,
  MLINE: multiline,
  TOLERANCE: tolerance,
  TEXT: text,
  ATTRIB: attribute,
  ATTDEF: attributeDefinition,
  MTEXT: paragraph,
  RAY: endless('ray'),
  XLINE: endless('construction line'),
};

/** Names of kinds that are kept without being understood. */
export const opaqueNames: Readonly<Record<string, string>> = {
  '3DSOLID': '3D solid',
  REGION: 'region',
  BODY: 'body',
  SURFACE: 'surface',
  ACAD_PROXY_ENTITY: 'proxy',
  OLE2FRAME: 'embedded object',
  OLEFRAME: 'embedded object',
  WIPEOUT: 'wipeout',
  SHAPE: 'shape',
};
