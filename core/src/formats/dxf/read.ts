/** From a DXF file to the neutral model. Design units are drawing units; the page's y is −y of the drawing. */
import { boxAround, unite, type Box } from '../../geometry/box.ts';
import { GeometryBuilder } from '../../geometry/builder.ts';
import { identity, multiply, type Matrix } from '../../geometry/matrix.ts';
import { noTraits, type Definition, type Design, type Page, type Part } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { flip } from './axes.ts';
import { fingerprintOf } from './content.ts';
import {
  find,
  keyOf,
  nameOf,
  nextRecord,
  numberOf,
  surveyDocument,
  textOf,
  type BlockRow,
  type DxfDocument,
  type Span,
} from './document.ts';
import { draws, oldPolyline, opaque, opaqueNames, planeFor, type Drawn } from './entities.ts';
import { Groups } from './groups.ts';
import { layersOf, Looks } from './look.ts';
import { ReaderNotes } from './notes.ts';
import { originOf, unitOf } from './origin.ts';

/** Coordinates beyond this are taken for damage; nothing is drawn there. */
const ABSURD = 1e13;
/** Placements of one array, at most. */
const MOST_IN_ARRAY = 10_000;

/** Shared, since hundreds of thousands of parts have none. */
const noParents: readonly string[] = [];

/**
 * Throws ReadError where no drawing can be made out at all, or where it is beyond `limits`. Damaged files are read as
 * far as they go.
 */
export function readDxf(bytes: Uint8Array, limits: Limits): Design {
  if (bytes.length === 0) throw new ReadError('The file is empty.', 0);
  if (bytes.length > limits.bytes)
    throw new ReadError(
      `The file is larger than ${Math.round(limits.bytes / 1024 / 1024)} MB, which is more than Ovrel reads part by part.`,
    );
  const groups = new Groups(bytes, limits);
  const doc = surveyDocument(groups);
  if (!doc.entities.length && !doc.blocks.size && !doc.layers.size && !doc.header.size) {
    throw new ReadError(
      groups.damage
        ? `The file is no DXF drawing that can be read: at byte ${groups.damage.offset.toLocaleString('en')}, ${groups.damage.sentence}.`
        : 'The file has none of the sections of a DXF drawing.',
      groups.damage?.offset ?? 0,
    );
  }
  return new Reader(doc, limits).read();
}

function kindOfBlock({ name, outside }: BlockRow): string {
  if (name.startsWith('*')) return 'unnamed block';
  return outside ? 'external reference' : 'block';
}

class Reader {
  private readonly geometry: GeometryBuilder;
  private readonly definitions: Definition[] = [];
  private readonly byBlock = new Map<string, number>();
  private readonly reading: string[] = [];
  private readonly looks: Looks;
  private readonly notes = new ReaderNotes();
  private elements = 0;
  /** Windows whose border is another entity: that one's handle. */
  private readonly borders: { at: number; handle: string }[] = [];
  private readonly doc: DxfDocument;
  private readonly limits: Limits;

  constructor(doc: DxfDocument, limits: Limits) {
    this.doc = doc;
    this.limits = limits;
    this.geometry = new GeometryBuilder(limits.points);
    this.looks = new Looks(doc);
  }

  read(): Design {
    const { doc } = this;
    const parts: Part[] = [];
    const sheets = this.sheets();
    const onPaper = (first: number): boolean => numberOf(doc.groups, this.spanAt(first), 67, 0) === 1;
    this.entities(doc.entities, (first) => (onPaper(first) ? 1 : 0), false, parts);
    sheets.forEach((sheet, k) => {
      if (sheet.block) this.entities(sheet.block.entities, () => k + 1, false, parts);
    });
    this.giveBorders(parts);
    const { millimetres, name } = unitOf(doc.header);
    const pages: Page[] = [
      { name: 'Model', box: extentOf(parts, 0), ...(millimetres ? { unitMillimetres: millimetres } : {}) },
    ];
    sheets.forEach((sheet, k) =>
      pages.push({
        name: sheet.name,
        box: sheet.limits
          ? (unite(sheet.limits, extentOf(parts, k + 1, sheet.limits)) ?? sheet.limits)
          : extentOf(parts, k + 1),
      }),
    );
    const last = parts.reduce((most, p) => Math.max(most, p.page), 0);
    if (pages.length <= last) pages.push({ name: 'Paper', box: extentOf(parts, 1) });
    return {
      format: 'dxf',
      traits: noTraits,
      origin: { ...originOf(doc), ...(name ? { units: name } : {}) },
      pages,
      parts,
      definitions: this.definitions,
      geometry: this.geometry.finish(),
      notes: this.notes.sentences(doc, parts.length),
      sequential: false,
      layers: layersOf(doc),
      lineTypes: this.lineTypes(),
      yUp: true,
    };
  }

  private lineTypes(): Record<string, readonly number[]> {
    const scale = Number(this.doc.header.get('$LTSCALE')?.[0] ?? 1) || 1;
    return Object.fromEntries(
      [...this.doc.lineTypes]
        .filter(([, dashes]) => dashes.length)
        .map(([name, dashes]) => [name, dashes.map((d) => d * scale)]),
    );
  }

  /** Layouts in the order of their tabs; the active one's entities stand with those of the model. */
  private sheets(): { name: string; block: BlockRow | undefined; limits: Box | undefined }[] {
    const { doc } = this;
    const model = /^\*model_space$/i;
    const rows = doc.layouts
      .map((layout) => ({ layout, block: doc.records.get(layout.record) ?? '' }))
      .filter(({ block, layout }) => !model.test(block) && layout.name.toLowerCase() !== 'model');
    // The active layout first: its entities have no block of their own.
    const active = (name: string): number => (/^\*paper_space$/i.test(name) ? 0 : 1);
    rows.sort((p, q) => active(p.block) - active(q.block) || p.layout.order - q.layout.order);
    return rows.map(({ layout, block }) => ({
      name: layout.name || 'Paper',
      block: doc.blocks.get(keyOf(block)),
      limits: layout.limits && [layout.limits[0], -layout.limits[3], layout.limits[2], -layout.limits[1]],
    }));
  }

  private spanAt(first: number): Span {
    return { first, last: nextRecord(this.doc.groups, first) };
  }

  private entities(firsts: readonly number[], pageOf: (first: number) => number, inBlock: boolean, out: Part[]): void {
    const { groups: g } = this.doc;
    for (let k = 0; k < firsts.length; k++) {
      const first = firsts[k] as number;
      const span = this.spanAt(first);
      const type = g.word(first);
      if (++this.elements > this.limits.elements)
        throw new ReadError(
          `The drawing has more than ${this.limits.elements.toLocaleString('en')} entities, which is more than Ovrel reads part by part.`,
          g.at[first],
        );
      if (type === 'SEQEND' || type === 'VERTEX' || type === 'ENDBLK') continue;
      const owner = { page: pageOf(first), inBlock };
      if (type === 'POLYLINE') {
        const [vertices, next] = this.following(firsts, k, 'VERTEX');
        this.add(
          span,
          owner,
          this.safely(() => oldPolyline(this.doc, span, vertices, this.geometry)),
          out,
          vertices.at(-1)?.last,
        );
        k = next;
      } else if (type === 'INSERT') {
        this.placement(span, owner, out);
        const [attributes, next] = numberOf(g, span, 66, 0) ? this.following(firsts, k, 'ATTRIB') : [[], k];
        const block = nameOf(g, span, 2) ?? '';
        for (const a of attributes)
          this.add(
            a,
            owner,
            this.safely(() => (draws['ATTRIB'] as NonNullable<(typeof draws)[string]>)(this.doc, a, this.geometry)),
            out,
            undefined,
            [block],
          );
        k = next;
      } else if (
        type === 'DIMENSION' ||
        type === 'ARC_DIMENSION' ||
        type === 'LARGE_RADIAL_DIMENSION' ||
        type === 'ACAD_TABLE'
      )
        this.drawnByBlock(span, owner, type === 'ACAD_TABLE' ? 'table' : 'dimension', out);
      else {
        const kind = opaqueNames[type] ?? type.toLowerCase().replace(/_/g, ' ');
        const draw = draws[type];
        if (!draw) this.notes.count('opaque', kind);
        this.add(
          span,
          owner,
          this.safely(() => (draw ?? opaque(kind))(this.doc, span, this.geometry)),
          out,
        );
      }
    }
  }

  /** Records of this type right after record `k`, and the index of the last record that belongs to it. */
  private following(firsts: readonly number[], k: number, type: string): [Span[], number] {
    const { groups: g } = this.doc;
    const spans: Span[] = [];
    let at = k;
    for (; at + 1 < firsts.length; at++) {
      const first = firsts[at + 1] as number;
      const word = g.word(first);
      if (word === 'SEQEND') return [spans, at + 1];
      if (word !== type) break;
      spans.push(this.spanAt(first));
    }
    return [spans, at];
  }

  private giveBorders(parts: Part[]): void {
    for (const { at, handle } of this.borders) {
      const part = parts[at];
      const border = parts.find((p) => p.key === handle && p.page === part?.page);
      if (!part?.window || !border?.subpaths || !border.box) continue;
      parts[at] = {
        ...part,
        window: { ...part.window, clip: border.box, outline: Array.from(this.geometry.pointsOf(border.firstSubpath)) },
      };
    }
  }

  /** What an entity draws, unless its coordinates are no numbers or absurd. */
  private safely(draw: () => Drawn): { drawn: Drawn; firstSubpath: number; subpaths: number; box: Box | undefined } {
    const firstSubpath = this.geometry.subpathCount;
    const drawn = draw();
    let subpaths = this.geometry.subpathCount - firstSubpath;
    let box = unite(subpaths ? this.geometry.boxFrom(firstSubpath) : undefined, drawn.box);
    if (box && !box.every((v) => Math.abs(v) < ABSURD)) {
      this.geometry.cutBack(firstSubpath);
      this.notes.count('absurd');
      [subpaths, box] = [0, undefined];
    }
    return { drawn, firstSubpath, subpaths, box };
  }

  private add(
    span: Span,
    owner: Owner,
    { drawn, firstSubpath, subpaths, box }: ReturnType<Reader['safely']>,
    out: Part[],
    last?: number,
    parents: readonly string[] = noParents,
  ): void {
    if (drawn.window && drawn.border && !owner.inBlock) this.borders.push({ at: out.length, handle: drawn.border });
    const words = drawn.lettering?.words ?? drawn.lettering?.runs.map((r) => r.text).join(' ');
    out.push(
      this.part(
        span,
        owner,
        {
          kind: drawn.kind,
          name:
            drawn.name ??
            (words ? `“${words.length > 48 ? `${words.slice(0, 47)}…` : words}”`.replace(/\n/g, ' ') : drawn.kind),
          firstSubpath,
          subpaths,
          box,
          transform: drawn.transform ?? identity,
          props: this.looks.of(span, owner.inBlock, drawn.props),
          parents,
          ...(drawn.lettering ? { lettering: drawn.lettering } : {}),
          ...(drawn.hatch?.length ? { hatch: drawn.hatch } : {}),
          ...(drawn.window ? { window: drawn.window } : {}),
        },
        last,
      ),
    );
  }

  private part(
    span: Span,
    owner: Owner,
    has: Omit<Part, 'key' | 'category' | 'categoryIsKey' | 'page' | 'span'>,
    last = span.last,
  ): Part {
    const { groups: g } = this.doc;
    return {
      key: textOf(g, span, 5)?.trim().toUpperCase() || undefined,
      category: this.looks.layerName(span),
      categoryIsKey: false,
      page: owner.page,
      span: [g.at[span.first] as number, g.endOf(last - 1)],
      ...has,
    };
  }

  /** INSERT: one part; what it draws is its definition's content. */
  private placement(span: Span, owner: Owner, out: Part[]): void {
    const { groups: g } = this.doc;
    const name = nameOf(g, span, 2) ?? '';
    const block = this.doc.blocks.get(keyOf(name));
    const turn = (numberOf(g, span, 50, 0) * Math.PI) / 180;
    const c = Math.cos(turn);
    const s = Math.sin(turn);
    const spot: Matrix = multiply(
      [c, s, -s, c, numberOf(g, span, 10, 0), numberOf(g, span, 20, 0)],
      [numberOf(g, span, 41, 1), 0, 0, numberOf(g, span, 42, 1), 0, 0],
    );
    const transform = multiply(multiply(planeFor(this.doc, span), spot), flip);
    let definition = block && this.define(block);
    if (!block) this.notes.count('missing', name);
    const columns = Math.max(1, numberOf(g, span, 70, 1));
    const rows = Math.max(1, numberOf(g, span, 71, 1));
    if (definition !== undefined && columns * rows > 1)
      definition = this.array(
        definition,
        columns,
        rows,
        numberOf(g, span, 44, 0) / (numberOf(g, span, 41, 1) || 1),
        numberOf(g, span, 45, 0) / (numberOf(g, span, 42, 1) || 1),
      );
    this.placed(
      span,
      owner,
      'placement',
      definition,
      transform,
      definition === undefined ? { of: block ? 'a block that contains itself' : `missing block ${name}` } : undefined,
      out,
      name,
    );
  }

  private placed(
    span: Span,
    owner: Owner,
    kind: string,
    definition: number | undefined,
    transform: Matrix,
    props: Record<string, string | number> | undefined,
    out: Part[],
    name: string,
  ): void {
    const inner = definition === undefined ? undefined : boxOfContent(this.definitions[definition]?.content ?? []);
    const sound = transform.every((v) => Math.abs(v) < ABSURD);
    if (!sound) this.notes.count('absurd');
    const box = sound
      ? ((inner && boxAround(inner, transform)) ?? ([transform[4], transform[5], transform[4], transform[5]] as const))
      : undefined;
    out.push(
      this.part(span, owner, {
        kind,
        name,
        parents: noParents,
        firstSubpath: this.geometry.subpathCount,
        subpaths: 0,
        box,
        transform: sound ? transform : identity,
        props: this.looks.of(span, owner.inBlock, props),
        ...(definition === undefined || !sound ? {} : { definition }),
      }),
    );
  }

  /** Rows and columns of one block in a single entity. */
  private array(of: number, columns: number, rows: number, dx: number, dy: number): number {
    const base = this.definitions[of] as Definition;
    const key = `${base.key} ${columns}×${rows} ${dx} ${dy}`;
    const known = this.byBlock.get(key);
    const content: Part[] = [];
    if (known !== undefined) return known;
    const inner = boxOfContent(base.content ?? []);
    for (let r = 0; r < rows && content.length < MOST_IN_ARRAY; r++) {
      for (let c = 0; c < columns && content.length < MOST_IN_ARRAY; c++) {
        const transform: Matrix = [1, 0, 0, 1, c * dx, -r * dy];
        content.push({
          key: undefined,
          kind: 'placement',
          name: base.name,
          parents: [],
          category: '0',
          categoryIsKey: false,
          page: 0,
          firstSubpath: 0,
          subpaths: 0,
          box: inner && boxAround(inner, transform),
          transform,
          props: { colour: 'by block', 'line type': 'by block', 'line weight': 'by block' },
          definition: of,
          span: [0, 0],
        });
      }
    }
    return this.keep(key, { key: base.key, kind: 'array', name: `${base.name} ${columns} × ${rows}`, content });
  }

  /** Dimensions and tables: their program keeps a drawing of them in a block without a name. */
  private drawnByBlock(span: Span, owner: Owner, kind: string, out: Part[]): void {
    const { groups: g } = this.doc;
    const block = this.doc.blocks.get(keyOf(nameOf(g, span, 2) ?? ''));
    const first = block?.entities[0];
    const at = first === undefined ? undefined : this.spanAt(first);
    const base =
      at && find(g, at, 10) >= 0
        ? ([numberOf(g, at, 10, 0), numberOf(g, at, 20, 0)] as const)
        : ([numberOf(g, span, 10, 0), numberOf(g, span, 20, 0)] as const);
    const definition = block && this.define(block, base);
    const words = this.wordsIn(definition);
    const measured = numberOf(g, span, 42, NaN);
    const override = kind === 'dimension' ? textOf(g, span, 1) : undefined;
    const style = kind === 'dimension' ? nameOf(g, span, 3) : undefined;
    const props = {
      ...(words ? { text: words } : {}),
      ...(Number.isNaN(measured) ? {} : { measured: Number(measured.toPrecision(8)) }),
      ...(override && override !== '<>' ? { 'typed over': override } : {}),
      ...(style ? { 'dimension style': style } : {}),
    };
    this.placed(
      span,
      owner,
      kind,
      definition,
      [1, 0, 0, 1, base[0], -base[1]],
      props,
      out,
      words ? `${kind} ${words}` : kind,
    );
  }

  private wordsIn(definition: number | undefined): string {
    const texts =
      definition === undefined
        ? []
        : (this.definitions[definition]?.content ?? []).flatMap(
            (p) => p.lettering?.words ?? p.lettering?.runs.map((r) => r.text).join(' ') ?? [],
          );
    return texts.join(' ').slice(0, 120);
  }

  /**
   * Index of the definition of a block; undefined for one that contains itself. Its content stands relative to `base`.
   */
  private define(block: BlockRow, base: readonly [number, number] = block.base): number | undefined {
    const key = keyOf(block.name);
    const known = this.byBlock.get(key);
    if (known !== undefined) return known;
    if (this.reading.includes(key) || this.reading.length > this.limits.depth) {
      this.notes.count('cycle', block.name);
      return undefined;
    }
    this.reading.push(key);
    const read: Part[] = [];
    const firstSubpath = this.geometry.subpathCount;
    this.entities(block.entities, () => 0, true, read);
    this.reading.pop();
    const [dx, dy] = [-base[0], base[1]];
    if (dx || dy) this.geometry.shift(firstSubpath, dx, dy);
    const content = dx || dy ? read.map((p) => shifted(p, dx, dy)) : read;
    if (block.outside) this.notes.count('outside', block.outside);
    return this.keep(key, {
      key: block.name,
      kind: kindOfBlock(block),
      name: block.name,
      content,
    });
  }

  private keep(
    key: string,
    definition: Omit<Definition, 'fingerprint' | 'parts' | 'content'> & { content: readonly Part[] },
  ): number {
    const fingerprint = fingerprintOf(definition.content, this.geometry, this.definitions);
    this.definitions.push({ ...definition, fingerprint, parts: definition.content.length });
    this.byBlock.set(key, this.definitions.length - 1);
    return this.definitions.length - 1;
  }
}

interface Owner {
  readonly page: number;
  readonly inBlock: boolean;
}

const shifted = (p: Part, dx: number, dy: number): Part => ({
  ...p,
  box: p.box && [p.box[0] + dx, p.box[1] + dy, p.box[2] + dx, p.box[3] + dy],
  transform:
    p.lettering || p.definition !== undefined
      ? [p.transform[0], p.transform[1], p.transform[2], p.transform[3], p.transform[4] + dx, p.transform[5] + dy]
      : p.transform,
  ...(p.hatch ? { hatch: p.hatch.map((l) => ({ ...l, x: l.x + dx, y: l.y + dy })) } : {}),
});

const boxOfContent = (parts: readonly Part[]): Box | undefined =>
  parts.reduce<Box | undefined>((sum, p) => (p.props['hidden'] === 'yes' ? sum : unite(sum, p.box)), undefined);

/** Bounds of what is visible on a page. */
function extentOf(parts: readonly Part[], page: number, otherwise: Box = [0, -100, 100, 0]): Box {
  let all: Box | undefined;
  let seen: Box | undefined;
  for (const p of parts) {
    if (p.page !== page || !p.box) continue;
    all = unite(all, p.box);
    if (p.props['hidden'] !== 'yes') seen = unite(seen, p.box);
  }
  const box = seen ?? all;
  if (!box) return otherwise;
  // A page of no extent cannot be shown.
  const room = box[2] > box[0] || box[3] > box[1] ? 0 : 1;
  return [box[0] - room, box[1] - room, box[2] + room, box[3] + room];
}
