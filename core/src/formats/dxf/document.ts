/** Sections, tables, blocks and objects of a DXF file, found in one pass over its groups. */
import type { Groups } from './groups.ts';
import { numberedColour, trueColour } from './colours.ts';
import { encodingOf, unescape } from './words.ts';

/** A record: from its group 0 (inclusive) to the next (exclusive). */
export interface Span {
  readonly first: number;
  readonly last: number;
}

export interface LayerRow {
  readonly name: string;
  readonly handle: string | undefined;
  readonly colour: string;
  readonly lineType: string;
  /** Millimetres; undefined for the default. */
  readonly lineWeight: number | undefined;
  readonly off: boolean;
  readonly frozen: boolean;
  readonly locked: boolean;
  readonly plots: boolean;
}

export interface BlockRow {
  readonly name: string;
  readonly handle: string | undefined;
  readonly base: readonly [number, number];
  /** Path of the drawing that it stands for, if it is an external reference. */
  readonly outside: string | undefined;
  /** First groups of its entities. */
  readonly entities: readonly number[];
}

export interface StyleRow {
  readonly name: string;
  readonly font: string;
  readonly widthFactor: number;
  readonly oblique: number;
  readonly fixedHeight: number;
}

export interface LayoutRow {
  readonly name: string;
  readonly order: number;
  /** Handle of its block record. */
  readonly record: string;
  /** left, bottom, right, top of the paper in drawing units, where it says so. */
  readonly limits: readonly [number, number, number, number] | undefined;
}

export interface DxfDocument {
  readonly groups: Groups;
  readonly header: ReadonlyMap<string, readonly (string | number)[]>;
  readonly layers: ReadonlyMap<string, LayerRow>;
  /** Names of layers by handle. */
  readonly layerNames: ReadonlyMap<string, string>;
  /** Dash lengths in drawing units; negative for gaps, 0 for dots. */
  readonly lineTypes: ReadonlyMap<string, readonly number[]>;
  readonly styles: ReadonlyMap<string, StyleRow>;
  readonly blocks: ReadonlyMap<string, BlockRow>;
  /** Names of blocks by handle of their block records. */
  readonly records: ReadonlyMap<string, string>;
  readonly layouts: readonly LayoutRow[];
  /** Paths of pictures by handle of their definitions. */
  readonly pictures: ReadonlyMap<string, string>;
  /** First groups of the entities of model space and of the active layout. */
  readonly entities: readonly number[];
  /** Types of objects (dictionaries, groups …) and how many there are. */
  readonly objects: ReadonlyMap<string, number>;
}

/** Index of the next record's first group. */
export function nextRecord(g: Groups, first: number): number {
  let i = first + 1;
  while (i < g.count && g.codes[i] !== 0) i++;
  return i;
}

/** Begins an object within an entity, whose groups mean other things. */
export const EMBEDDED = 101;

/**
 * Group index of the first group `code` in a record, past application groups ("{…"), before embedded objects and
 * extended data; −1 for none.
 */
export function find(g: Groups, { first, last }: Span, code: number): number {
  let nested = 0;
  for (let i = first + 1; i < last; i++) {
    const c = g.codes[i] as number;
    if (c === code && !nested) return i;
    if (c >= 1000 || c === EMBEDDED) return -1;
    if (c === 102) nested = g.bytes[g.from[i] as number] === 123 ? 1 : 0;
  }
  return -1;
}

export const textOf = (g: Groups, span: Span, code: number): string | undefined => {
  const i = find(g, span, code);
  return i < 0 ? undefined : g.text(i);
};

export const nameOf = (g: Groups, span: Span, code: number): string | undefined => {
  const text = textOf(g, span, code);
  return text === undefined ? undefined : unescape(text).trim();
};

export const numberOf = (g: Groups, span: Span, code: number, otherwise: number): number => {
  const i = find(g, span, code);
  const n = i < 0 ? otherwise : g.number(i);
  return Number.isNaN(n) ? otherwise : n;
};

/** Name of a layer, block or style as a key: their names do not tell capitals apart. */
export const keyOf = (name: string): string => name.toLowerCase();

export function surveyDocument(groups: Groups): DxfDocument {
  return new Survey(groups).run();
}

class Survey {
  readonly header = new Map<string, (string | number)[]>();
  readonly layers = new Map<string, LayerRow>();
  readonly layerNames = new Map<string, string>();
  readonly lineTypes = new Map<string, number[]>();
  readonly styles = new Map<string, StyleRow>();
  readonly blocks = new Map<string, BlockRow>();
  readonly records = new Map<string, string>();
  readonly layouts: LayoutRow[] = [];
  readonly pictures = new Map<string, string>();
  readonly entities: number[] = [];
  readonly objects = new Map<string, number>();
  private block: { span: Span; entities: number[] } | undefined;
  readonly groups: Groups;

  constructor(groups: Groups) {
    this.groups = groups;
  }

  run(): DxfDocument {
    const g = this.groups;
    let section = '';
    for (let i = 0; i < g.count;) {
      if (g.codes[i] !== 0) {
        i++;
        continue;
      }
      const span = { first: i, last: nextRecord(g, i) };
      const type = g.word(i);
      i = span.last;
      if (type === 'SECTION') {
        section = nameOf(g, span, 2)?.toUpperCase() ?? '';
        if (section === 'HEADER') {
          this.readHeader(span);
          const value = (name: string): string => String(this.header.get(name)?.[0] ?? '');
          g.decodeWith(encodingOf(value('$ACADVER').trim(), value('$DWGCODEPAGE').trim()));
        }
      } else if (type === 'ENDSEC') section = '';
      else if (type === 'EOF') break;
      else if (section === 'TABLES') this.readTable(type, span);
      else if (section === 'BLOCKS') this.readBlocks(type, span);
      else if (section === 'ENTITIES') this.entities.push(span.first);
      else if (section === 'OBJECTS') this.readObject(type, span);
    }
    this.closeBlock();
    return this;
  }

  private readHeader({ first, last }: Span): void {
    const g = this.groups;
    let values: (string | number)[] | undefined;
    for (let i = first + 1; i < last; i++) {
      const code = g.codes[i] as number;
      if (code === 9) this.header.set(g.word(i), (values = []));
      else if (values) values.push(code < 10 || (code >= 300 && code < 370) ? unescape(g.text(i)) : g.number(i));
    }
  }

  private readTable(type: string, span: Span): void {
    const g = this.groups;
    const name = nameOf(g, span, 2);
    if (name === undefined) return;
    if (type === 'LAYER') {
      const flags = numberOf(g, span, 70, 0);
      const number = numberOf(g, span, 62, 7);
      const weight = numberOf(g, span, 370, -3);
      const full = find(g, span, 420);
      const handle = textOf(g, span, 5)?.trim();
      if (handle) this.layerNames.set(handle, name);
      this.layers.set(keyOf(name), {
        name,
        handle,
        colour: full >= 0 ? trueColour(g.number(full)) : numberedColour(Math.abs(number)),
        lineType: nameOf(g, span, 6) ?? 'Continuous',
        lineWeight: weight >= 0 ? weight / 100 : undefined,
        off: number < 0,
        frozen: (flags & 1) === 1,
        locked: (flags & 4) === 4,
        plots: numberOf(g, span, 290, 1) !== 0,
      });
    } else if (type === 'LTYPE') this.lineTypes.set(keyOf(name), this.dashes(span));
    else if (type === 'STYLE') {
      const font = nameOf(g, span, 3) ?? '';
      this.styles.set(keyOf(name), {
        name,
        font: this.familyIn(span) ?? font,
        widthFactor: numberOf(g, span, 41, 1),
        oblique: numberOf(g, span, 50, 0),
        fixedHeight: numberOf(g, span, 40, 0),
      });
    } else if (type === 'BLOCK_RECORD') {
      const handle = textOf(g, span, 5)?.trim();
      if (handle) this.records.set(handle, name);
    }
  }

  private dashes({ first, last }: Span): number[] {
    const g = this.groups;
    const out: number[] = [];
    for (let i = first + 1; i < last && out.length < 64; i++) if (g.codes[i] === 49) out.push(g.number(i));
    return out.filter(Number.isFinite);
  }

  /** The family name of a TrueType font, which stands in extended data. */
  private familyIn({ first, last }: Span): string | undefined {
    const g = this.groups;
    for (let i = first + 1; i < last; i++) if (g.codes[i] === 1000) return unescape(g.text(i)).trim() || undefined;
    return undefined;
  }

  private readBlocks(type: string, span: Span): void {
    if (type === 'BLOCK') {
      this.closeBlock();
      this.block = { span, entities: [] };
    } else if (type === 'ENDBLK') this.closeBlock();
    else this.block?.entities.push(span.first);
  }

  private closeBlock(): void {
    if (!this.block) return;
    const { span, entities } = this.block;
    const g = this.groups;
    const name = nameOf(g, span, 2) ?? nameOf(g, span, 3) ?? '';
    const path = nameOf(g, span, 1);
    this.blocks.set(keyOf(name), {
      name,
      entities,
      handle: textOf(g, span, 5)?.trim(),
      base: [numberOf(g, span, 10, 0), numberOf(g, span, 20, 0)],
      outside: numberOf(g, span, 70, 0) & 12 && path ? path : undefined,
    });
    this.block = undefined;
  }

  private readObject(type: string, span: Span): void {
    this.objects.set(type, (this.objects.get(type) ?? 0) + 1);
    const g = this.groups;
    if (type === 'LAYOUT') this.readLayout(span);
    else if (type === 'IMAGEDEF') {
      const handle = textOf(g, span, 5)?.trim();
      if (handle) this.pictures.set(handle, nameOf(g, span, 1) ?? '');
    }
  }

  /**
   * A layout is a plot setting followed by its own data; both use the same group codes, told apart by subclass
   * markers (100).
   */
  private readLayout({ first, last }: Span): void {
    const g = this.groups;
    let own = false;
    let name = '';
    let order = 0;
    let record = '';
    const limits = [NaN, NaN, NaN, NaN];
    for (let i = first + 1; i < last; i++) {
      const code = g.codes[i] as number;
      if (code === 100) own = g.word(i) === 'ACDBLAYOUT';
      else if (!own) continue;
      else if (code === 1) name = unescape(g.text(i)).trim();
      else if (code === 71) order = g.number(i);
      else if (code === 330) record = g.text(i).trim();
      else if (code === 10 || code === 20) limits[code === 10 ? 0 : 1] = g.number(i);
      else if (code === 11 || code === 21) limits[code === 11 ? 2 : 3] = g.number(i);
    }
    const [l = NaN, b = NaN, r = NaN, t = NaN] = limits;
    this.layouts.push({ name, order, record, limits: r > l && t > b ? [l, b, r, t] : undefined });
  }
}
