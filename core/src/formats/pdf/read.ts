/** From a PDF document to the neutral model. Design units are points, y downwards from the top of each page. */
import { boxAround, unite, type Box } from '../../geometry/box.ts';
import { GeometryBuilder } from '../../geometry/builder.ts';
import { Hash } from '../../geometry/hash.ts';
import { identity, multiply, scaleOf, type Matrix } from '../../geometry/matrix.ts';
import type { Design, Page, Part, Scalar } from '../../model/design.ts';
import type { PageRead } from '../../model/format.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { plural } from '../../text/plural.ts';
import { actionsIn } from './actions.ts';
import { heapsOf, OpenPdf } from './engine.ts';
import { layersOf } from './layers.ts';

/** Types of page objects (fpdf_edit.h). */
const TEXT = 1;
const PATH = 2;
const IMAGE = 3;
const FORM = 5;
/** Types of path segments. */
const LINE = 0;
const CURVE = 1;
const DEEPEST = 12;
const MOST_PAGES = 5_000;
/** Of larger documents it is not known which layers are hidden, nor what they carry besides scripts, in bytes. */
const WRITTEN_OUT = 64 * 1024 * 1024;
const MILLIMETRES = 25.4 / 72;

/** Throws ReadError for documents that are locked, damaged beyond reading, or beyond `limits`. */
export function readPdf(bytes: Uint8Array, limits: Limits): Design {
  const reading = readingPdf(bytes, limits);
  for (let step = reading.next(); ; step = reading.next()) if (step.done) return step.value;
}

/** The same page by page; the design is there at the end. Throws as `readPdf` does; `return()` closes the document. */
export function* readingPdf(bytes: Uint8Array, limits: Limits): Generator<PageRead, Design, undefined> {
  if (bytes.length > limits.bytes)
    throw new ReadError(
      `The file is larger than ${Math.round(limits.bytes / 1024 ** 2)} MB, which is more than Ovrel reads part by part.`,
    );
  const pdf = new OpenPdf(bytes);
  try {
    return yield* new Reader(pdf, limits, bytes.length).reading();
  } finally {
    pdf.close();
  }
}

/** From the page's own coordinates to those of the sheet as it is seen: y downwards, turned as the page says. */
function pageMatrix([x0, y0, x1, y1]: Box, quarters: number): Matrix {
  switch (((quarters % 4) + 4) % 4) {
    case 1:
      return [0, 1, 1, 0, -y0, -x0];
    case 2:
      return [-1, 0, 0, 1, x1, -y0];
    case 3:
      return [0, -1, -1, 0, y1, x1];
    default:
      return [1, 0, 0, -1, -x0, y1];
  }
}

interface Run {
  text: string;
  readonly size: number;
  readonly family: string;
  readonly weight: string;
  readonly fill: string;
  readonly transform: Matrix;
  box: Box;
  /** Where the next letter would stand, along the line. */
  end: number;
}

class Reader {
  private readonly geometry: GeometryBuilder;
  private readonly parts: Part[] = [];
  private readonly fonts = new Map<number, { family: string; weight: string }>();
  private run: { run: Run; page: number } | undefined;
  /** Of what is read now. */
  private layer = '';
  private objects = 0;
  private readonly pdf: OpenPdf;
  private readonly limits: Limits;
  private readonly size: number;

  constructor(pdf: OpenPdf, limits: Limits, size: number) {
    this.size = size;
    this.pdf = pdf;
    this.limits = limits;
    this.geometry = new GeometryBuilder(limits.points);
  }

  *reading(): Generator<PageRead, Design, undefined> {
    const { pdf } = this;
    const { engine, handle } = pdf;
    const count = engine.FPDF_GetPageCount(handle);
    const pages: Page[] = [];
    const notes: string[] = [];
    if (count > MOST_PAGES)
      throw new ReadError(
        `The document has ${count.toLocaleString('en')} pages, which is more than the ${MOST_PAGES.toLocaleString('en')} that Ovrel looks into.`,
      );
    let broken = 0;
    for (let k = 0; k < count; k++) {
      const page = engine.FPDF_LoadPage(handle, k);
      const label = pdf.text((at, length) => engine.FPDF_GetPageLabel(handle, k, at, length)).trim();
      const name = label && label !== String(k + 1) ? `Page ${k + 1} (${label})` : `Page ${k + 1}`;
      if (!page) {
        broken++;
        pages.push({ name, box: [0, 0, 595, 842], unitMillimetres: MILLIMETRES });
        yield { count, page: pages[k] as Page, parts: [] };
        continue;
      }
      pages.push({
        name,
        box: [0, 0, round(engine.FPDF_GetPageWidthF(page)), round(engine.FPDF_GetPageHeightF(page))],
        unitMillimetres: MILLIMETRES,
      });
      const before = this.parts.length;
      this.page(page, k);
      engine.FPDF_ClosePage(page);
      yield { count, page: pages[k] as Page, parts: this.parts.slice(before) };
    }
    const scripts = engine.FPDFDoc_GetJavaScriptActionCount(handle);
    const attached = engine.FPDFDoc_GetAttachmentCount(handle);
    if (broken)
      notes.push(`${plural(broken, 'page')} cannot be read; ${broken === 1 ? 'it is' : 'they are'} shown empty.`);
    const text = this.size <= WRITTEN_OUT ? new TextDecoder('latin1').decode(pdf.saved() ?? new Uint8Array()) : '';
    const actions = actionsIn(text, scripts);
    if (actions) notes.push(actions);
    if (attached > 0)
      notes.push(
        `${plural(attached, 'file')} attached within the document ${attached === 1 ? 'is' : 'are'} kept in it, and not looked into.`,
      );
    const layered = this.parts.some((p) => p.category) ? layersOf(text) : undefined;
    const layers = layered?.layers ?? [];
    const off = new Set(layers.flatMap((l) => (l.props['off'] === 'yes' ? [l.name] : [])));
    const parts = layered
      ? this.parts.map((p): Part => {
          const category = p.category && layered.named(p.category);
          return { ...p, category, ...(off.has(category) ? { props: { ...p.props, hidden: 'yes' } } : {}) };
        })
      : this.parts;
    const program =
      pdf.text((at, length) => engine.FPDF_GetMetaText(handle, 'Creator', at, length)).trim() ||
      pdf.text((at, length) => engine.FPDF_GetMetaText(handle, 'Producer', at, length)).trim();
    const version = pdf.withBytes(4, (at, cells) => (engine.FPDF_GetFileVersion(handle, at) ? cells.int(0) : 0));
    return {
      format: 'pdf',
      traits: {
        pageSize: { unit: 'mm', factor: MILLIMETRES, whole: true },
        pagesMove: true,
        seenOtherwise: true,
      },
      origin: {
        units: 'pt',
        ...(program ? { program: program.slice(0, 120) } : {}),
        ...(version ? { formatVersion: `${Math.floor(version / 10)}.${version % 10}` } : {}),
      },
      pages,
      parts,
      ...(layers.length ? { layers } : {}),
      definitions: [],
      geometry: this.geometry.finish(),
      notes,
      sequential: false,
    };
  }

  private page(page: number, index: number): void {
    const { engine } = this.pdf;
    const text = engine.FPDFText_LoadPage(page);
    const box = this.boxOf(page);
    const matrix = pageMatrix(box, engine.FPDFPage_GetRotation(page));
    const count = engine.FPDFPage_CountObjects(page);
    for (let k = 0; k < count; k++) this.object(engine.FPDFPage_GetObject(page, k), text, matrix, index, 0);
    this.flush();
    engine.FPDFText_ClosePage(text);
    this.annotations(page, matrix, index);
  }

  private boxOf(page: number): Box {
    const { engine } = this.pdf;
    return this.pdf.withBytes(16, (at, cells): Box => {
      const got =
        engine.FPDFPage_GetCropBox(page, at, at + 4, at + 8, at + 12) ||
        engine.FPDFPage_GetMediaBox(page, at, at + 4, at + 8, at + 12);
      const [l = 0, b = 0, r = 0, t = 0] = [0, 4, 8, 12].map((o) => cells.float(o));
      return got && r > l && t > b ? [l, b, r, t] : [0, 0, 595, 842];
    });
  }

  private object(object: number, text: number, outer: Matrix, page: number, depth: number): void {
    if (++this.objects > this.limits.elements)
      throw new ReadError(
        `The document has more than ${this.limits.elements.toLocaleString('en')} objects, which is more than Ovrel reads part by part.`,
      );
    const { engine } = this.pdf;
    const type = engine.FPDFPageObj_GetType(object);
    const outside = this.layer;
    const own = this.layerOf(object) || outside;
    // Words that were begun are on the layer before.
    if (own !== outside) this.flush();
    this.layer = own;
    if (type === TEXT) this.text(object, text, outer, page);
    else {
      this.flush();
      if (type === PATH) this.path(object, outer, page);
      else if (type === IMAGE) this.image(object, outer, page);
      else if (type === FORM && depth < DEEPEST) {
        const inner = multiply(outer, this.matrixOf(object));
        const count = engine.FPDFFormObj_CountObjects(object);
        for (let k = 0; k < count; k++)
          this.object(engine.FPDFFormObj_GetObject(object, k), text, inner, page, depth + 1);
        this.flush();
      }
    }
    if (this.layer !== outside) this.flush();
    this.layer = outside;
  }

  /** Name of the layer that an object says it is on (ISO 32000-2, 8.11.3.2); empty for none. */
  private layerOf(object: number): string {
    const { pdf } = this;
    const { engine } = pdf;
    const count = engine.FPDFPageObj_CountMarks(object);
    for (let k = 0; k < count; k++) {
      const mark = engine.FPDFPageObj_GetMark(object, k);
      const text = (call: (at: number, length: number, needed: number) => boolean): string =>
        pdf.withBytes(4, (needed, cells) =>
          pdf.text((at, length) => (call(at, length, needed) ? cells.unsigned(0) : 0)),
        );
      if (text((at, length, needed) => engine.FPDFPageObjMark_GetName(mark, at, length, needed)) !== 'OC') continue;
      const name = text((at, length, needed) =>
        engine.FPDFPageObjMark_GetParamStringValue(mark, 'Name', at, length, needed),
      );
      if (name) return name;
    }
    return '';
  }

  private matrixOf(object: number): Matrix {
    return this.pdf.withBytes(24, (at, cells): Matrix => {
      if (!this.pdf.engine.FPDFPageObj_GetMatrix(object, at)) return identity;
      const m = [0, 4, 8, 12, 16, 20].map((o) => cells.float(o));
      return m.every(Number.isFinite) ? (m as unknown as Matrix) : identity;
    });
  }

  private boundsOf(object: number, outer: Matrix): Box | undefined {
    return this.pdf.withBytes(16, (at, cells) => {
      if (!this.pdf.engine.FPDFPageObj_GetBounds(object, at, at + 4, at + 8, at + 12)) return undefined;
      const [l = 0, b = 0, r = 0, t = 0] = [0, 4, 8, 12].map((o) => cells.float(o));
      return [l, b, r, t].every(Number.isFinite) ? boxAround([l, b, r, t], outer) : undefined;
    });
  }

  private colourOf(
    object: number,
    of: 'FPDFPageObj_GetFillColor' | 'FPDFPageObj_GetStrokeColor',
  ): { colour: string; opacity: number } {
    return this.pdf.withBytes(16, (at, cells) => {
      const got = this.pdf.engine[of](object, at, at + 4, at + 8, at + 12);
      const [r = 0, g = 0, b = 0, a = 255] = [0, 4, 8, 12].map((o) => cells.unsigned(o));
      return got
        ? {
            colour: `#${[r, g, b].map((v) => (v & 255).toString(16).padStart(2, '0')).join('')}`,
            opacity: (a & 255) / 255,
          }
        : { colour: '#000000', opacity: 1 };
    });
  }

  private text(object: number, textPage: number, outer: Matrix, page: number): void {
    const { pdf } = this;
    const { engine } = pdf;
    const words = pdf
      .text((at, length) => engine.FPDFTextObj_GetText(object, textPage, at, length))
      .replace(/[\0-\x1f\ufffe\uffff]/g, ' ');
    const box = this.boundsOf(object, outer);
    if (!words.trim() || !box) return;
    const size = pdf.withBytes(4, (at, cells) => (engine.FPDFTextObj_GetFontSize(object, at) ? cells.float(0) : 12));
    const font = this.fontOf(engine.FPDFTextObj_GetFont(object));
    const own = multiply(outer, this.matrixOf(object));
    const transform: Matrix = [own[0], own[1], -own[2], -own[3], own[4], own[5]];
    const next: Run = {
      text: words,
      size,
      ...font,
      fill: this.colourOf(object, 'FPDFPageObj_GetFillColor').colour,
      transform,
      box,
      end: 0,
    };
    next.end = alongOf(next, box)[1];
    const before = this.run?.page === page ? this.run.run : undefined;
    if (before && continues(before, next)) return;
    this.flush();
    this.run = { run: next, page };
  }

  private fontOf(font: number): { family: string; weight: string } {
    const known = this.fonts.get(font);
    const { pdf } = this;
    const { engine } = pdf;
    if (known) return known;
    const name = font
      ? pdf.text((at, length) => engine.FPDFFont_GetBaseFontName(font, at, length), 'utf-8').replace(/^[A-Z]{6}\+/, '')
      : '';
    const made = {
      family: name.replace(/[,-](Bold|Italic|Oblique|Regular|BoldItalic|BoldOblique|Roman|MT)+$/i, '') || 'sans-serif',
      weight: /bold|black|heavy/i.test(name) || (font && engine.FPDFFont_GetWeight(font) >= 600) ? '700' : '400',
    };
    this.fonts.set(font, made);
    return made;
  }

  /** Ends a line of words: it is one part. */
  private flush(): void {
    const held = this.run;
    this.run = undefined;
    if (!held) return;
    const { run: r, page } = held;
    const words = r.text.replace(/\s+/g, ' ').trim();
    const size = round(r.size * scaleOf(r.transform));
    this.add({
      kind: 'text',
      name: `“${words.length > 48 ? `${words.slice(0, 47)}…` : words}”`,
      page,
      box: r.box,
      transform: r.transform,
      props: { fill: r.fill, 'font-size': size, 'font-family': r.family, 'font-weight': r.weight },
      lettering: {
        runs: [{ text: words, x: 0, y: 0 }],
        size: r.size,
        family: r.family,
        weight: r.weight,
        anchor: 'start',
      },
    });
  }

  private path(object: number, outer: Matrix, page: number): void {
    const { pdf, geometry } = this;
    const { engine } = pdf;
    const first = geometry.subpathCount;
    const m = multiply(outer, this.matrixOf(object));
    const count = engine.FPDFPath_CountSegments(object);
    geometry.setMatrix(m);
    pdf.withBytes(8, (at, cells) => {
      const curve: number[] = [];
      for (let k = 0; k < count; k++) {
        const segment = engine.FPDFPath_GetPathSegment(object, k);
        const type = engine.FPDFPathSegment_GetType(segment);
        engine.FPDFPathSegment_GetPoint(segment, at, at + 4);
        const x = cells.float(0);
        const y = cells.float(4);
        if (type === LINE) geometry.lineTo(x, y);
        else if (type !== CURVE) geometry.moveTo(x, y);
        else if (curve.push(x, y) === 6)
          geometry.curveTo(...(curve.splice(0) as [number, number, number, number, number, number]));
        if (engine.FPDFPathSegment_GetClose(segment)) geometry.close();
      }
    });
    const [mode, stroked] = pdf.withBytes(8, (at, cells): [number, boolean] =>
      engine.FPDFPath_GetDrawMode(object, at, at + 4) ? [cells.int(0), cells.int(4) !== 0] : [0, true],
    );
    const fill = mode ? this.colourOf(object, 'FPDFPageObj_GetFillColor') : undefined;
    const stroke = stroked ? this.colourOf(object, 'FPDFPageObj_GetStrokeColor') : undefined;
    const width = pdf.withBytes(4, (at, cells) => (engine.FPDFPageObj_GetStrokeWidth(object, at) ? cells.float(0) : 1));
    if (geometry.subpathCount === first) return;
    // Shapes without any paint only cut others off.
    if (!fill && !stroke) {
      geometry.cutBack(first);
      return;
    }
    this.add({
      kind: 'path',
      name: 'path',
      page,
      first,
      box: undefined,
      transform: m,
      props: {
        fill: fill?.colour ?? 'none',
        stroke: stroke?.colour ?? 'none',
        ...(stroke ? { 'stroke-width': round(width * scaleOf(m)) } : {}),
        ...((fill ?? stroke)?.opacity === 1 ? {} : { opacity: round((fill ?? stroke)?.opacity ?? 1) }),
      },
    });
  }

  private image(object: number, outer: Matrix, page: number): void {
    const { pdf, geometry } = this;
    const { engine } = pdf;
    const first = geometry.subpathCount;
    const m = multiply(outer, this.matrixOf(object));
    geometry.setMatrix(m);
    geometry.moveTo(0, 0);
    geometry.lineTo(1, 0);
    geometry.lineTo(1, 1);
    geometry.lineTo(0, 1);
    geometry.close();
    const pixels = pdf.withBytes(8, (at, cells) =>
      engine.FPDFImageObj_GetImagePixelSize(object, at, at + 4) ? `${cells.unsigned(0)} × ${cells.unsigned(4)} px` : '',
    );
    const length = engine.FPDFImageObj_GetImageDataRaw(object, 0, 0);
    const hash = new Hash();
    if (length > 0 && length < 200_000_000) {
      pdf.withBytes(length, (at) => {
        engine.FPDFImageObj_GetImageDataRaw(object, at, length);
        const { HEAPU8 } = heapsOf(engine);
        for (let k = 0; k < length; k += Math.max(1, Math.floor(length / 200_000))) hash.int(HEAPU8[at + k] as number);
      });
    }
    this.add({
      kind: 'image',
      name: 'image',
      page,
      first,
      box: undefined,
      transform: m,
      props: { source: `${pixels}, ${hash.int(length).digest().slice(0, 8)}` },
    });
  }

  /** Notes, links and form fields: what they say, and where. */
  private annotations(page: number, matrix: Matrix, index: number): void {
    const { pdf } = this;
    const { engine } = pdf;
    const count = engine.FPDFPage_GetAnnotCount(page);
    for (let k = 0; k < count; k++) {
      const annotation = engine.FPDFPage_GetAnnot(page, k);
      if (!annotation) continue;
      const kind = annotationKinds[engine.FPDFAnnot_GetSubtype(annotation)] ?? 'annotation';
      const value = (key: string): string =>
        pdf.text((at, length) => engine.FPDFAnnot_GetStringValue(annotation, key, at, length)).trim();
      const box = pdf.withBytes(16, (at, cells) =>
        engine.FPDFAnnot_GetRect(annotation, at)
          ? boxAround([cells.float(0), cells.float(12), cells.float(8), cells.float(4)], matrix)
          : undefined,
      );
      const words = value('Contents');
      const field = value('T');
      const filled = value('V');
      if (kind !== 'link')
        this.add({
          kind,
          name: (kind === 'form field' && field) || (words ? `“${words.slice(0, 48)}”` : kind),
          page: index,
          box,
          transform: [1, 0, 0, 1, box?.[0] ?? 0, box?.[1] ?? 0],
          props: { ...(words ? { words } : {}), ...(filled ? { value: filled.slice(0, 400) } : {}) },
        });
      engine.FPDFPage_CloseAnnot(annotation);
    }
  }

  private add(
    has: Pick<Part, 'kind' | 'name' | 'page' | 'transform' | 'box'> & {
      readonly first?: number;
      readonly props: Record<string, Scalar>;
      readonly lettering?: NonNullable<Part['lettering']>;
    },
  ): void {
    const { first, lettering, ...rest } = has;
    const firstSubpath = first ?? this.geometry.subpathCount;
    const subpaths = this.geometry.subpathCount - firstSubpath;
    this.parts.push({
      key: undefined,
      parents: [],
      category: this.layer,
      categoryIsKey: false,
      firstSubpath,
      subpaths,
      ...rest,
      box: unite(subpaths ? this.geometry.boxFrom(firstSubpath) : undefined, has.box),
      ...(lettering ? { lettering } : {}),
      span: [0, 0],
    });
  }
}

const annotationKinds: Readonly<Record<number, string>> = {
  1: 'note',
  2: 'link',
  3: 'free text',
  4: 'line',
  5: 'square',
  6: 'circle',
  7: 'polygon',
  8: 'polyline',
  9: 'highlight',
  10: 'underline',
  11: 'squiggle',
  12: 'strike-out',
  13: 'stamp',
  15: 'ink',
  17: 'attached file',
  20: 'form field',
};

/** Places of a box along a run's line and across it, in the run's own direction. */
function alongOf({ transform: m }: Pick<Run, 'transform'>, box: Box): readonly [number, number, number] {
  const l = Math.hypot(m[0], m[1]) || 1;
  const ux = m[0] / l;
  const uy = m[1] / l;
  const corners = [
    [box[0], box[1]],
    [box[2], box[1]],
    [box[0], box[3]],
    [box[2], box[3]],
  ] as const;
  const t = corners.map(([x, y]) => ux * x + uy * y);
  return [Math.min(...t), Math.max(...t), -uy * m[4] + ux * m[5]];
}

/** Joins words that go on where others on the same line end; true where they did. */
function continues(before: Run, next: Run): boolean {
  const size = before.size * scaleOf(before.transform);
  const same =
    before.family === next.family &&
    before.weight === next.weight &&
    before.fill === next.fill &&
    Math.abs(size - next.size * scaleOf(next.transform)) < 0.02 * size;
  const [from, to] = alongOf(before, next.box);
  const [, , own] = alongOf(before, before.box);
  const turned =
    Math.abs(Math.atan2(before.transform[1], before.transform[0]) - Math.atan2(next.transform[1], next.transform[0])) >
    0.01;
  const here =
    -Math.sin(Math.atan2(before.transform[1], before.transform[0])) * next.transform[4] +
    Math.cos(Math.atan2(before.transform[1], before.transform[0])) * next.transform[5];
  const gap = from - before.end;
  if (!same || turned || Math.abs(here - own) > 0.15 * size || gap < -0.4 * size || gap > 1.1 * size) return false;
  before.text += (gap > 0.18 * size && !before.text.endsWith(' ') && !next.text.startsWith(' ') ? ' ' : '') + next.text;
  before.box = unite(before.box, next.box) ?? before.box;
  before.end = to;
  return true;
}

const round = (n: number): number => Math.round(n * 1000) / 1000;
