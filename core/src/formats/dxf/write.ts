/**
 * Writes DXF drawings of version AC1018 (2004), the first with colours of 24 bits. Coordinates are drawing units, y
 * upwards.
 */

export interface LayerLook {
  /** #rrggbb. */
  readonly colour?: string;
  readonly lineType?: string;
  /** Millimetres. */
  readonly weight?: number;
  readonly off?: boolean;
}

/** What an entity may say of itself; what it leaves out comes from its layer. A colour is #rrggbb or "by block". */
export interface EntityLook {
  readonly layer?: string;
  readonly colour?: string;
  readonly lineType?: string;
  readonly weight?: number;
}

export type Point = readonly [x: number, y: number];

export interface WriterOptions {
  /** Number of `$INSUNITS`; 4 are millimetres. */
  readonly units?: number;
  /** Where handles begin. Programs that renumber on save begin anew. */
  readonly firstHandle?: number;
  readonly program?: string;
}

type Group = readonly [code: number, value: string | number];

const inWords = (text: string): string =>
  text.replace(/[^\x20-\x7e]/g, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`);
const trueColour = (colour: string): number => parseInt(colour.slice(1, 7), 16);
const format = (value: string | number): string => {
  if (typeof value === 'string') return value;
  if (Number.isInteger(value)) return String(value);
  return String(Number(value.toFixed(9)));
};

/** Entities of model space, or of a block. */
export class DxfEntities {
  readonly groups: Group[] = [];
  private readonly handle: () => string;

  constructor(handle: () => string) {
    this.handle = handle;
  }

  line([x0, y0]: Point, [x1, y1]: Point, look: EntityLook = {}): this {
    return this.entity('LINE', 'AcDbLine', look, [
      [10, x0],
      [20, y0],
      [30, 0],
      [11, x1],
      [21, y1],
      [31, 0],
    ]);
  }

  circle([x, y]: Point, radius: number, look: EntityLook = {}): this {
    return this.entity('CIRCLE', 'AcDbCircle', look, [
      [10, x],
      [20, y],
      [30, 0],
      [40, radius],
    ]);
  }

  /** Degrees, counter-clockwise. */
  arc([x, y]: Point, radius: number, from: number, to: number, look: EntityLook = {}): this {
    return this.entity('ARC', 'AcDbCircle', look, [
      [10, x],
      [20, y],
      [30, 0],
      [40, radius],
      [100, 'AcDbArc'],
      [50, from],
      [51, to],
    ]);
  }

  /** `bulges` belong to the segment that begins at each point. */
  polyline(points: readonly Point[], closed: boolean, look: EntityLook = {}, bulges: readonly number[] = []): this {
    return this.entity('LWPOLYLINE', 'AcDbPolyline', look, [
      [90, points.length],
      [70, closed ? 1 : 0],
      ...points.flatMap(([x, y], i): Group[] => [[10, x], [20, y], ...(bulges[i] ? [[42, bulges[i]] as const] : [])]),
    ]);
  }

  text(
    [x, y]: Point,
    height: number,
    words: string,
    look: EntityLook & { readonly turn?: number; readonly middle?: boolean } = {},
  ): this {
    return this.entity('TEXT', 'AcDbText', look, [
      [10, x],
      [20, y],
      [30, 0],
      [40, height],
      [1, inWords(words)],
      ...(look.turn ? [[50, look.turn] as const] : []),
      ...(look.middle
        ? ([
            [72, 1],
            [11, x],
            [21, y],
            [31, 0],
          ] as const)
        : []),
      [100, 'AcDbText'],
    ]);
  }

  paragraph([x, y]: Point, height: number, width: number, words: string, look: EntityLook = {}): this {
    return this.entity('MTEXT', 'AcDbMText', look, [
      [10, x],
      [20, y],
      [30, 0],
      [40, height],
      [41, width],
      [71, 1],
      [72, 5],
      [1, inWords(words).replace(/\n/g, '\\P')],
    ]);
  }

  placement(
    block: string,
    [x, y]: Point,
    look: EntityLook & {
      readonly turn?: number;
      readonly scale?: number;
      readonly attributes?: readonly {
        readonly tag: string;
        readonly at: Point;
        readonly height: number;
        readonly words: string;
      }[];
    } = {},
  ): this {
    const { attributes = [], scale = 1 } = look;
    this.entity('INSERT', 'AcDbBlockReference', look, [
      ...(attributes.length ? [[66, 1] as const] : []),
      [2, block],
      [10, x],
      [20, y],
      [30, 0],
      ...(scale === 1
        ? []
        : ([
            [41, scale],
            [42, scale],
            [43, scale],
          ] as const)),
      ...(look.turn ? [[50, look.turn] as const] : []),
    ]);
    for (const { tag, at, height, words } of attributes) {
      this.entity('ATTRIB', 'AcDbText', look, [
        [10, at[0]],
        [20, at[1]],
        [30, 0],
        [40, height],
        [1, inWords(words)],
        [100, 'AcDbAttribute'],
        [2, tag],
        [70, 0],
      ]);
    }
    if (attributes.length)
      this.groups.push([0, 'SEQEND'], [5, this.handle()], [100, 'AcDbEntity'], [8, look.layer ?? '0']);
    return this;
  }

  /** A filled area, or one hatched by parallel lines at an angle in degrees and a distance. */
  hatch(
    points: readonly Point[],
    lines: { readonly angle: number; readonly distance: number } | undefined,
    look: EntityLook = {},
  ): this {
    const a = ((lines?.angle ?? 0) * Math.PI) / 180;
    const d = lines?.distance ?? 0;
    const pattern: readonly Group[] = lines
      ? [
          [52, 0],
          [41, 1],
          [77, 0],
          [78, 1],
          [53, lines.angle],
          [43, 0],
          [44, 0],
          [45, -Math.sin(a) * d],
          [46, Math.cos(a) * d],
          [79, 0],
        ]
      : [];
    return this.entity('HATCH', 'AcDbHatch', look, [
      [10, 0],
      [20, 0],
      [30, 0],
      [210, 0],
      [220, 0],
      [230, 1],
      [2, lines ? 'LINES' : 'SOLID'],
      [70, lines ? 0 : 1],
      [71, 0],
      [91, 1],
      [92, 2],
      [72, 0],
      [73, 1],
      [93, points.length],
      ...points.flatMap(([x, y]): Group[] => [
        [10, x],
        [20, y],
      ]),
      [97, 0],
      [75, 0],
      [76, 1],
      ...pattern,
      [98, 0],
    ]);
  }

  private entity(type: string, subclass: string, look: EntityLook, own: readonly Group[]): this {
    this.groups.push([0, type], [5, this.handle()], [100, 'AcDbEntity'], [8, look.layer ?? '0']);
    if (look.lineType) this.groups.push([6, look.lineType]);
    if (look.colour === 'by block') this.groups.push([62, 0]);
    else if (look.colour) this.groups.push([420, trueColour(look.colour)]);
    if (look.weight !== undefined) this.groups.push([370, Math.round(look.weight * 100)]);
    this.groups.push([100, subclass], ...own);
    return this;
  }
}

export class DxfWriter extends DxfEntities {
  private readonly layers = new Map<string, LayerLook>([['0', {}]]);
  private readonly lineTypes = new Map<string, readonly number[]>();
  private readonly blocks = new Map<string, { base: Point; entities: DxfEntities }>();
  private readonly options: WriterOptions;
  private readonly counter: { next: number };

  constructor(options: WriterOptions = {}) {
    const counter = { next: options.firstHandle ?? 0x100 };
    super(() => (counter.next++).toString(16).toUpperCase());
    this.counter = counter;
    this.options = options;
  }

  layer(name: string, look: LayerLook = {}): this {
    this.layers.set(name, look);
    return this;
  }

  /** Dash lengths in drawing units: dash, gap (negative), dot (0) … */
  lineType(name: string, dashes: readonly number[]): this {
    this.lineTypes.set(name, dashes);
    return this;
  }

  block(name: string, base: Point, draw: (into: DxfEntities) => void): this {
    // Handles of a block's own, so that one more line in it renumbers nothing else.
    let own = 0x100000 + this.blocks.size * 0x1000;
    const entities = new DxfEntities(() => (own++).toString(16).toUpperCase());
    draw(entities);
    this.blocks.set(name, { base, entities });
    return this;
  }

  finish(): string {
    const { units = 4, program } = this.options;
    const out: Group[] = program ? [[999, program]] : [];
    const sections: readonly (readonly [string, () => readonly Group[]])[] = [
      [
        'HEADER',
        () => [
          [9, '$ACADVER'],
          [1, 'AC1018'],
          [9, '$DWGCODEPAGE'],
          [3, 'ANSI_1252'],
          [9, '$INSUNITS'],
          [70, units],
          [9, '$MEASUREMENT'],
          [70, 1],
          [9, '$HANDSEED'],
          [5, 'FFFFFF'],
        ],
      ],
      ['TABLES', () => this.tables()],
      ['BLOCKS', () => this.blockSection()],
      ['ENTITIES', () => this.groups],
      [
        'OBJECTS',
        () => [
          [0, 'DICTIONARY'],
          [5, 'C'],
          [330, '0'],
          [100, 'AcDbDictionary'],
          [3, 'ACAD_GROUP'],
          [350, 'D'],
          [0, 'DICTIONARY'],
          [5, 'D'],
          [330, 'C'],
          [100, 'AcDbDictionary'],
        ],
      ],
    ];
    const lines = (groups: readonly Group[]): string =>
      groups.map(([code, value]) => `${String(code).padStart(3)}\n${format(value)}\n`).join('');
    return `${lines(out)}${sections
      .map(
        ([name, groups]) =>
          lines([
            [0, 'SECTION'],
            [2, name],
          ]) +
          lines(groups()) +
          lines([[0, 'ENDSEC']]),
      )
      .join('')}${lines([[0, 'EOF']])}`;
  }

  private readonly next = (): string => (this.counter.next++).toString(16).toUpperCase();

  private tables(): Group[] {
    const table = (name: string, handle: string, rows: readonly Group[][]): Group[] => [
      [0, 'TABLE'],
      [2, name],
      [5, handle],
      [100, 'AcDbSymbolTable'],
      [70, rows.length],
      ...rows.flat(),
      [0, 'ENDTAB'],
    ];
    const row = (type: string, handle: string, subclass: string, name: string, more: readonly Group[]): Group[] => [
      [0, type],
      [type === 'DIMSTYLE' ? 105 : 5, handle],
      [100, 'AcDbSymbolTableRecord'],
      [100, subclass],
      [2, name],
      ...more,
    ];
    const lineType = (name: string, dashes: readonly number[], handle: string): Group[] =>
      row('LTYPE', handle, 'AcDbLinetypeTableRecord', name, [
        [70, 0],
        [3, ''],
        [72, 65],
        [73, dashes.length],
        [40, dashes.reduce((sum, d) => sum + Math.abs(d), 0)],
        ...dashes.flatMap((d): Group[] => [
          [49, d],
          [74, 0],
        ]),
      ]);
    const layers = [...this.layers].map(([name, look], i) =>
      row('LAYER', `2${i.toString(16)}`.toUpperCase(), 'AcDbLayerTableRecord', inWords(name), [
        [70, 0],
        [62, look.off ? -7 : 7],
        ...(look.colour ? [[420, trueColour(look.colour)] as const] : []),
        [6, look.lineType ?? 'Continuous'],
        [370, look.weight === undefined ? -3 : Math.round(look.weight * 100)],
        [390, 'F'],
      ]),
    );
    return [
      ...table('VPORT', '8', []),
      ...table('LTYPE', '5', [
        lineType('ByBlock', [], '14'),
        lineType('ByLayer', [], '15'),
        lineType('Continuous', [], '16'),
        ...[...this.lineTypes].map(([name, dashes], i) => lineType(name, dashes, `3${i.toString(16)}`.toUpperCase())),
      ]),
      ...table('LAYER', '2', layers),
      ...table('STYLE', '3', [
        row('STYLE', '11', 'AcDbTextStyleTableRecord', 'Standard', [
          [70, 0],
          [40, 0],
          [41, 1],
          [50, 0],
          [71, 0],
          [42, 2.5],
          [3, 'txt'],
          [4, ''],
        ]),
      ]),
      ...table('VIEW', '6', []),
      ...table('UCS', '7', []),
      ...table('APPID', '9', [row('APPID', '12', 'AcDbRegAppTableRecord', 'ACAD', [[70, 0]])]),
      ...table('DIMSTYLE', 'A', []),
      ...table(
        'BLOCK_RECORD',
        '1',
        ['*Model_Space', '*Paper_Space', ...this.blocks.keys()].map((name, i) =>
          row('BLOCK_RECORD', `4${i.toString(16)}`.toUpperCase(), 'AcDbBlockTableRecord', name, []),
        ),
      ),
    ];
  }

  private blockSection(): Group[] {
    const empty = { base: [0, 0] as Point, entities: new DxfEntities(this.next) };
    return [
      ...([
        ['*Model_Space', empty],
        ['*Paper_Space', empty],
      ] as const),
      ...this.blocks,
    ].flatMap(([name, { base, entities }]): Group[] => [
      [0, 'BLOCK'],
      [5, this.next()],
      [100, 'AcDbEntity'],
      [8, '0'],
      [100, 'AcDbBlockBegin'],
      [2, name],
      [70, 0],
      [10, base[0]],
      [20, base[1]],
      [30, 0],
      [3, name],
      [1, ''],
      ...entities.groups,
      [0, 'ENDBLK'],
      [5, this.next()],
      [100, 'AcDbEntity'],
      [8, '0'],
      [100, 'AcDbBlockEnd'],
    ]);
  }
}
