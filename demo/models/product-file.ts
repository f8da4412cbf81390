/** Writes STEP models (AP214, ISO 10303-214, in the clear text of ISO 10303-21) of bodies with flat faces. Millimetres. */

export type Ref = `#${number}`;
type Point = readonly [x: number, y: number, z: number];

/** Corners, and faces as rings of their numbers, counter-clockwise as seen from outside. */
export interface Body {
  readonly corners: readonly Point[];
  readonly faces: readonly (readonly number[])[];
}

/** Where a product stands: its origin, and where its x and z go. */
export interface Standing {
  readonly at: Point;
  readonly x?: Point;
  readonly z?: Point;
}

export interface Written {
  readonly by: string;
  readonly at: string;
  readonly program: string;
}

export class ProductFile {
  private readonly lines: string[] = [];
  private readonly written: Written;
  private readonly context: Ref;
  private readonly frame: Ref;
  private readonly application: Ref;
  private uses = 0;

  constructor(written: Written) {
    this.written = written;
    this.application = this.add("APPLICATION_CONTEXT('core data for automotive mechanical design processes')");
    this.frame = this.add(`PRODUCT_CONTEXT('',${this.application},'mechanical')`);
    const length = this.add('(LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.))');
    const angle = this.add('(NAMED_UNIT(*) PLANE_ANGLE_UNIT() SI_UNIT($,.RADIAN.))');
    const solid = this.add('(NAMED_UNIT(*) SI_UNIT($,.STERADIAN.) SOLID_ANGLE_UNIT())');
    const fine = this.add(`UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-05),${length},'distance','')`);
    this.context = this.add(
      `(GEOMETRIC_REPRESENTATION_CONTEXT(3) GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((${fine})) GLOBAL_UNIT_ASSIGNED_CONTEXT((${length},${angle},${solid})) REPRESENTATION_CONTEXT('',''))`,
    );
  }

  /** A product with one body. */
  part(name: string, body: Body): Product {
    const brep = this.add(`MANIFOLD_SOLID_BREP('${name}',${this.shell(body)})`);
    const origin = this.axes({ at: [0, 0, 0] });
    const shape = this.add(`ADVANCED_BREP_SHAPE_REPRESENTATION('${name}',(${origin},${brep}),${this.context})`);
    return this.product(name, shape, origin);
  }

  /** A product that is put together of others. */
  assembly(name: string, members: readonly (readonly [Product, Standing])[]): Product {
    const placed = members.map(([part, standing]) => ({ part, axes: this.axes(standing) }));
    const origin = this.axes({ at: [0, 0, 0] });
    const items = [origin, ...placed.map(({ axes }) => axes)];
    const shape = this.add(`SHAPE_REPRESENTATION('${name}',(${items.join(',')}),${this.context})`);
    const whole = this.product(name, shape, origin);
    for (const { part, axes } of placed) this.use(whole, part, axes);
    return whole;
  }

  finish(name: string): Uint8Array {
    const { by, at, program } = this.written;
    const head = [
      'ISO-10303-21;',
      'HEADER;',
      "FILE_DESCRIPTION(('gangway'),'2;1');",
      `FILE_NAME('${name}','${at}',('${by}'),('Quillmere Works'),'${program}','${program}','');`,
      "FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));",
      'ENDSEC;',
      'DATA;',
    ];
    return new TextEncoder().encode([...head, ...this.lines, 'ENDSEC;', 'END-ISO-10303-21;', ''].join('\n'));
  }

  private product(name: string, shape: Ref, origin: Ref): Product {
    const product = this.add(`PRODUCT('${name}','${name}','',(${this.frame}))`);
    const formation = this.add(`PRODUCT_DEFINITION_FORMATION('','',${product})`);
    const view = this.add(`PRODUCT_DEFINITION_CONTEXT('part definition',${this.application},'design')`);
    const definition = this.add(`PRODUCT_DEFINITION('design','',${formation},${view})`);
    const shown = this.add(`PRODUCT_DEFINITION_SHAPE('','',${definition})`);
    this.add(`SHAPE_DEFINITION_REPRESENTATION(${shown},${shape})`);
    return { definition, shape, origin };
  }

  private use(whole: Product, part: Product, axes: Ref): void {
    this.uses += 1;
    const name = `use ${this.uses}`;
    const use = this.add(
      `NEXT_ASSEMBLY_USAGE_OCCURRENCE('${this.uses}','${name}','',${whole.definition},${part.definition},$)`,
    );
    const shown = this.add(`PRODUCT_DEFINITION_SHAPE('Placement','',${use})`);
    const way = this.add(`ITEM_DEFINED_TRANSFORMATION('','',${part.origin},${axes})`);
    const relation = this.add(
      `(REPRESENTATION_RELATIONSHIP('','',${part.shape},${whole.shape}) REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(${way}) SHAPE_REPRESENTATION_RELATIONSHIP())`,
    );
    this.add(`CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(${relation},${shown})`);
  }

  private shell({ corners, faces }: Body): Ref {
    const vertices = corners.map((corner) => this.add(`VERTEX_POINT('',${this.point(corner)})`));
    const edges = new Map<string, Ref>();
    const edge = (p: number, q: number): Ref => {
      const forth = edges.get(`${p} ${q}`);
      const known = forth ?? edges.get(`${q} ${p}`) ?? this.edge(corners, vertices, p, q);
      if (!forth && !edges.has(`${q} ${p}`)) edges.set(`${p} ${q}`, known);
      return this.add(`ORIENTED_EDGE('',*,*,${known},${edges.has(`${p} ${q}`) ? '.T.' : '.F.'})`);
    };
    const all = faces.map((ring) => {
      const around = ring.map((corner, k) => edge(corner, ring[(k + 1) % ring.length] as number));
      const loop = this.add(`EDGE_LOOP('',(${around.join(',')}))`);
      const bound = this.add(`FACE_OUTER_BOUND('',${loop},.T.)`);
      const [a, b, c] = ring.slice(0, 3).map((corner) => corners[corner] as Point) as [Point, Point, Point];
      const plane = this.add(`PLANE('',${this.axes({ at: a, x: toward(a, b), z: normal(a, b, c) })})`);
      return this.add(`ADVANCED_FACE('',(${bound}),${plane},.T.)`);
    });
    return this.add(`CLOSED_SHELL('',(${all.join(',')}))`);
  }

  private edge(corners: readonly Point[], vertices: readonly Ref[], p: number, q: number): Ref {
    const [from, to] = [corners[p] as Point, corners[q] as Point];
    const along = this.add(`DIRECTION('',(${toward(from, to).map(real).join(',')}))`);
    const length = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]);
    const line = this.add(`LINE('',${this.point(from)},${this.add(`VECTOR('',${along},${real(length)})`)})`);
    return this.add(`EDGE_CURVE('',${vertices[p]},${vertices[q]},${line},.T.)`);
  }

  private axes({ at, x = [1, 0, 0], z = [0, 0, 1] }: Standing): Ref {
    const [up, along] = [z, x].map((direction) => this.add(`DIRECTION('',(${direction.map(real).join(',')}))`));
    return this.add(`AXIS2_PLACEMENT_3D('',${this.point(at)},${up},${along})`);
  }

  private point = (at: Point): Ref => this.add(`CARTESIAN_POINT('',(${at.map(real).join(',')}))`);

  private add(said: string): Ref {
    const ref: Ref = `#${this.lines.length + 1}`;
    this.lines.push(`${ref}=${said};`);
    return ref;
  }
}

export interface Product {
  readonly definition: Ref;
  readonly shape: Ref;
  readonly origin: Ref;
}

function real(value: number): string {
  const said = String(Math.round(value * 1e6) / 1e6 + 0);
  return said.includes('.') ? said : `${said}.`;
}

const toward = (a: Point, b: Point): Point => unit([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);

function normal(a: Point, b: Point, c: Point): Point {
  const [ux, uy, uz] = toward(a, b);
  const [vx, vy, vz] = toward(a, c);
  return unit([uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]);
}

function unit([x, y, z]: Point): Point {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

/** An outline in the plane of x and y, drawn up by `height`. Its corners go counter-clockwise. */
export function prism(outline: readonly (readonly [number, number])[], height: number, from = 0): Body {
  const count = outline.length;
  const corners = [from, from + height].flatMap((z) => outline.map(([x, y]): Point => [x, y, z]));
  const around = outline.map((_, k) => [k, (k + 1) % count, count + ((k + 1) % count), count + k]);
  const foot = outline.map((_, k) => count - 1 - k);
  const top = outline.map((_, k) => count + k);
  return { corners, faces: [foot, top, ...around] };
}

export const rectangle = (width: number, depth: number): (readonly [number, number])[] => [
  [-width / 2, -depth / 2],
  [width / 2, -depth / 2],
  [width / 2, depth / 2],
  [-width / 2, depth / 2],
];

export const polygon = (radius: number, sides: number): (readonly [number, number])[] =>
  Array.from({ length: sides }, (_, k) => {
    const angle = (2 * Math.PI * k) / sides;
    return [radius * Math.cos(angle), radius * Math.sin(angle)] as const;
  });
