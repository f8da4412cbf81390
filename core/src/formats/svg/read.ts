/** From an SVG file to the neutral model. Design units are the user units of the root's viewBox. */
import { outlineProps } from './outline.ts';
import { runProps } from './runs.ts';
import { GeometryBuilder } from '../../geometry/builder.ts';
import { unite, type Box } from '../../geometry/box.ts';
import { hashText } from '../../geometry/hash.ts';
import { letteringBox } from '../../geometry/lettering.ts';
import { identity, multiply, parseTransform, scaleOf, type Matrix } from '../../geometry/matrix.ts';
import type { Definition, Design, Lettering, Part, Scalar } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { parseXml, type XmlElement } from '../xml/parse.ts';
import { StyleSheet } from './css.ts';
import { DefinitionTable, hrefOf, referenceId } from './definitions.ts';
import { enter, labelOf, looksGenerated, ungrouped, type Grouping } from './groups.ts';
import { lengthOf } from './length.ts';
import { SVG_NAMESPACE } from './namespace.ts';
import { originOf } from './origin.ts';
import { drawShape, shapeKinds, type Viewport } from './shapes.ts';
import { initialStyle, rounded, Styler, visibleProps, type Style } from './style.ts';
import { boxAlong, fontSizeOf, pathOf, readLettering } from './text.ts';
import { nestedView, rootView } from './viewport.ts';

/** Elements that draw nothing where they stand. */
const silent: ReadonlySet<string> = new Set([
  'defs',
  'symbol',
  'clipPath',
  'mask',
  'pattern',
  'marker',
  'linearGradient',
  'radialGradient',
  'filter',
  'style',
  'script',
  'metadata',
  'title',
  'desc',
  'view',
  'cursor',
  'font',
  'animate',
  'animateTransform',
  'animateMotion',
  'set',
]);
/** How pictures fit their frame unless it is said. */
const FITTED = 'xMidYMid';

/** Placements within placements that any drawing may have, and how many bytes of it allow for one more. */
const NESTED_PLACEMENTS = 50_000;
const BYTES_A_PLACEMENT = 10;

const containers: ReadonlySet<string> = new Set(['g', 'a', 'switch']);
/** Definitions that hold shapes. */
const holders: ReadonlySet<string> = new Set(['symbol', 'g', 'svg', 'clipPath', 'mask', 'pattern', 'marker']);

interface Place {
  readonly matrix: Matrix;
  readonly style: Style;
  readonly view: Viewport;
  readonly grouping: Grouping;
}

/** Throws ReadError for anything that is not well-formed XML with an `<svg>` root, or is beyond `limits`. */
export function readSvg(bytes: Uint8Array, limits: Limits): Design {
  if (bytes.length === 0) throw new ReadError('The file is empty.', 0);
  if (bytes.length > limits.bytes) {
    throw new ReadError(
      `The file is larger than ${Math.round(limits.bytes / 1024 / 1024)} MB, which is more than Ovrel reads part by part.`,
    );
  }
  const { root, notes } = parseXml(bytes, limits, SVG_NAMESPACE);
  if (root.name !== 'svg')
    throw new ReadError(`The file is XML, but its root element is <${root.name.slice(0, 40)}>, not <svg>.`, root.start);
  return new Reader(root, limits, notes).read(bytes);
}

class Reader {
  private readonly geometry: GeometryBuilder;
  private readonly onPage: Part[] = [];
  /** Where parts go: onto the page, or into a definition. */
  private parts = this.onPage;
  private readonly definitions: Definition[] = [];
  private readonly definitionIndex = new Map<XmlElement, number>();
  private readonly sheet = new StyleSheet();
  private readonly styler: Styler;
  private readonly table: DefinitionTable;
  private readonly byId = new Map<string, XmlElement>();
  private readonly tally = new Map<string, number>();
  private readonly notes: string[];
  private placements = 0;
  private nestedPlacements = 0;
  private mostNested = NESTED_PLACEMENTS;
  private content: Box | undefined;
  private outerView: Viewport = { width: 100, height: 100 };
  private readonly root: XmlElement;
  private readonly limits: Limits;

  constructor(root: XmlElement, limits: Limits, notes: readonly string[]) {
    this.root = root;
    this.limits = limits;
    this.notes = [...notes];
    this.geometry = new GeometryBuilder(limits.points);
    this.styler = new Styler(this.sheet);
    this.table = new DefinitionTable(this.byId, (element) => this.styler.declared(element));
  }

  read(bytes: Uint8Array): Design {
    this.mostNested = NESTED_PLACEMENTS + bytes.length / BYTES_A_PLACEMENT;
    this.survey(this.root);
    const { page, view, unitMillimetres, units, frame } = rootView(this.root);
    this.outerView = view;
    const outer: Place = {
      matrix: identity,
      style: this.styler.styleOf(this.root, initialStyle),
      view,
      grouping: ungrouped,
    };
    this.walkChildren(this.root, outer);
    for (const target of this.table.described) if (!this.definitionIndex.has(target)) this.define(target);
    this.keepReady(this.root, false);
    const origin = originOf(bytes.subarray(0, 4096), this.root.attributes);
    if (!page) this.notes.push('The drawing gives no size, so it is shown at the extents of its content.');
    return {
      format: 'svg',
      traits: { covering: true, pageSize: { factor: 1, whole: false, unless: 'placed' } },
      origin: units ? { ...origin, units } : origin,
      pages: [
        {
          name: labelOf(this.root) ?? 'Drawing',
          box: page ?? this.content ?? [0, 0, 100, 100],
          ...(unitMillimetres ? { unitMillimetres } : {}),
          ...(frame ? { frame } : {}),
        },
      ],
      parts: this.parts,
      definitions: this.definitions,
      geometry: this.geometry.finish(),
      notes: [...this.notes, ...this.tallyNotes()],
      sequential: false,
    };
  }

  /** One look at every element before drawing: ids, style sheets, and what will not be run or fetched. */
  private survey(top: XmlElement): void {
    const pending: XmlElement[] = [top];
    for (let e = pending.pop(); e; e = pending.pop()) {
      const { attributes } = e;
      const id = attributes['id'];
      if (id && !this.byId.has(id)) this.byId.set(id, e);
      if (e.name === 'style')
        this.sheet.add(e.children.filter((c) => typeof c === 'string').join(''), (s) => this.notes.push(s));
      if (e.name === 'script') this.count('script');
      for (const name in attributes) {
        if (/^on[a-z]/.test(name)) this.count('handler');
        else if ((name === 'href' || name === 'xlink:href') && e.name !== 'a' && isOutside(attributes[name] as string))
          this.count('outside');
      }
      for (let i = e.children.length - 1; i >= 0; i--) {
        const child = e.children[i];
        if (child && typeof child !== 'string') pending.push(child);
      }
    }
  }

  private walkChildren(e: XmlElement, place: Place): void {
    for (const child of e.children) if (typeof child !== 'string') this.walk(child, place);
  }

  private walk(e: XmlElement, outer: Place): void {
    if (silent.has(e.name)) return;
    const drawable =
      shapeKinds[e.name] !== undefined ||
      containers.has(e.name) ||
      ['svg', 'use', 'text', 'image', 'foreignObject'].includes(e.name);
    if (!drawable) {
      // Elements of other vocabularies (editors' own settings) draw nothing.
      if (!e.name.includes(':')) this.count('unknown');
      return;
    }
    const style = this.styler.styleOf(e, outer.style);
    const matrix = this.moved(outer.matrix, style, outer.view);
    const place: Place = { ...outer, matrix, style };
    if (e.name === 'switch') {
      const chosen = chosenBranch(e);
      if (chosen) this.walk(chosen, { ...place, grouping: enter(e, outer.grouping) });
    } else if (containers.has(e.name)) this.walkChildren(e, { ...place, grouping: enter(e, outer.grouping) });
    else if (e.name === 'svg') {
      const inner = nestedView(e, outer.view);
      this.walkChildren(e, {
        ...place,
        matrix: multiply(matrix, inner.matrix),
        view: inner.view,
        grouping: enter(e, outer.grouping),
      });
    } else if (e.name === 'use') this.placement(e, place);
    else if (e.name === 'text') this.text(e, place);
    else if (e.name === 'image' || e.name === 'foreignObject') this.framed(e, place);
    else this.shape(e, place);
  }

  /** The element's own transform, about its origin (CSS Transforms 1, §5–6; percentages are of the view box). */
  private moved(outer: Matrix, style: Style, view: Viewport): Matrix {
    const { transform, 'transform-origin': origin } = style;
    if (!transform || transform === 'none') return outer;
    const own = parseTransform(transform, () => this.count('transform'));
    if (!origin) return multiply(outer, own);
    const [x = '0', y = '50%'] = origin.trim().split(/\s+/);
    const words: Readonly<Record<string, string>> = {
      left: '0%',
      top: '0%',
      center: '50%',
      right: '100%',
      bottom: '100%',
    };
    const turned = x === 'top' || x === 'bottom' || y === 'left' || y === 'right';
    const px = turned ? y : x;
    const py = turned ? x : y;
    const ox = lengthOf(words[px] ?? px, view.width);
    const oy = lengthOf(words[py] ?? py, view.height);
    return multiply(outer, multiply([1, 0, 0, 1, ox, oy], multiply(own, [1, 0, 0, 1, -ox, -oy])));
  }

  private shape(e: XmlElement, place: Place): void {
    const first = this.geometry.subpathCount;
    this.drawInto(e, place);
    this.add(e, place, shapeKinds[e.name] as string, { first });
  }

  private drawInto(e: XmlElement, place: Place): void {
    this.geometry.setMatrix(place.matrix);
    if (drawShape(e, this.geometry, place.view)) this.count('path');
  }

  private text(e: XmlElement, place: Place): void {
    const lettering = readLettering(e, place.style, place.view.width, place.view.height);
    const path = pathOf(e);
    const line = path && this.byId.get(referenceId(hrefOf(path) ?? '') ?? '');
    const box = (path && line && this.boxAlong(path, line, lettering, place)) ?? letteringBox(lettering, place.matrix);
    this.add(e, place, 'text', {
      lettering,
      box,
      props: {
        'font-size': rounded(fontSizeOf(place.style) * scaleOf(place.matrix)),
        ...runProps(e, place.style, lettering, {
          styleOf: (element, outer) => this.styler.styleOf(element, outer),
          propsOf: (style) => visibleProps(style, 1, true, (reference) => this.table.describe(reference)),
        }),
        ...(path ? { along: this.table.describe(hrefOf(path) ?? '') } : {}),
      },
    });
  }

  /** Estimated bounds of words that follow a path. */
  private boxAlong(path: XmlElement, line: XmlElement, lettering: Lettering, place: Place): Box | undefined {
    if (!shapeKinds[line.name]) return undefined;
    const builder = new GeometryBuilder(this.limits.points);
    builder.setMatrix(
      multiply(place.matrix, this.moved(identity, this.styler.styleOf(line, initialStyle), place.view)),
    );
    drawShape(line, builder, place.view);
    const { points } = builder.finish();
    const scale = scaleOf(place.matrix);
    return boxAlong(
      points,
      lettering,
      scale,
      (whole) => lengthOf(path.attributes['startOffset'], whole / scale) * scale,
    );
  }

  private framed(e: XmlElement, place: Place): void {
    const { view } = place;
    const x = lengthOf(e.attributes['x'], view.width);
    const y = lengthOf(e.attributes['y'], view.height);
    const w = lengthOf(e.attributes['width'], view.width);
    const h = lengthOf(e.attributes['height'], view.height);
    const first = this.geometry.subpathCount;
    this.geometry.setMatrix(place.matrix);
    this.geometry.moveTo(x, y);
    this.geometry.lineTo(x + w, y);
    this.geometry.lineTo(x + w, y + h);
    this.geometry.lineTo(x, y + h);
    this.geometry.close();
    if (e.name === 'image') {
      const fit = e.attributes['preserveAspectRatio']?.trim();
      const props = {
        source: imageSource(hrefOf(e) ?? ''),
        ...(fit && fit !== FITTED && fit !== `${FITTED} meet` && { fit }),
      };
      this.add(e, place, 'image', { first, props });
    } else {
      this.count('foreign');
      this.add(e, place, 'foreign object', {
        first,
        props: { content: `content ${this.table.fingerprint(e).slice(0, 8)}` },
      });
    }
  }

  /** A `<use>`: one part, drawn with everything its definition draws. */
  private placement(e: XmlElement, place: Place): void {
    const href = hrefOf(e) ?? '';
    const target = href.startsWith('#') ? this.byId.get(referenceId(href) ?? '') : undefined;
    // What it holds comes before what this draws.
    const definition = target && this.define(target);
    const first = this.geometry.subpathCount;
    if (!target || definition === undefined) {
      if (href.startsWith('#')) this.count('broken');
      this.add(e, place, 'placement', {
        first,
        props: { of: href.startsWith('#') ? 'missing definition' : `outside: ${href.slice(0, 200)}` },
      });
      return;
    }
    const at: Place = {
      ...place,
      matrix: multiply(place.matrix, [
        1,
        0,
        0,
        1,
        lengthOf(e.attributes['x'], place.view.width),
        lengthOf(e.attributes['y'], place.view.height),
      ]),
    };
    if (this.parts !== this.onPage) {
      // Within a definition it is enough to know what is placed where.
      const [, , , , dx, dy] = at.matrix;
      this.add(e, at, 'placement', { first, box: [dx, dy, dx, dy], definition });
      return;
    }
    const box = this.drawTarget(target, at, e, [target]);
    this.add(e, at, 'placement', { first, box, definition });
  }

  /** Draws a definition's shapes into the current part; gives the box of its words, which have no geometry. */
  private drawTarget(target: XmlElement, at: Place, use: XmlElement, trail: readonly XmlElement[]): Box | undefined {
    if (use.name === 'use' && target !== use) this.countPlacement(trail.length > 1);
    const style = this.styler.styleOf(target, at.style);
    let matrix = this.moved(at.matrix, style, at.view);
    let view = at.view;
    if (target.name === 'symbol' || target.name === 'svg') {
      const inner = nestedView(target, view, { width: use.attributes['width'], height: use.attributes['height'] });
      matrix = multiply(matrix, inner.matrix);
      view = inner.view;
    }
    const place: Place = { ...at, matrix, view, style };
    if (shapeKinds[target.name]) {
      this.drawInto(target, place);
      return undefined;
    }
    if (target.name === 'text')
      return letteringBox(readLettering(target, place.style, view.width, view.height), matrix);
    if (target.name === 'use') {
      const next = this.byId.get(referenceId(hrefOf(target) ?? '') ?? '');
      if (!next) return undefined;
      if (trail.includes(next)) {
        this.count('cycle');
        return undefined;
      }
      const shifted = multiply(matrix, [
        1,
        0,
        0,
        1,
        lengthOf(target.attributes['x'], view.width),
        lengthOf(target.attributes['y'], view.height),
      ]);
      return this.drawTarget(next, { ...place, matrix: shifted }, target, [...trail, next]);
    }
    if (target.name !== 'symbol' && target.name !== 'svg' && !containers.has(target.name)) return undefined;
    let box: Box | undefined;
    for (const child of target.children) {
      if (typeof child !== 'string' && !silent.has(child.name))
        box = unite(box, this.drawTarget(child, place, child, trail));
    }
    return box;
  }

  /** Those within one another multiply: of them there may be no more than a drawing of its size could mean. */
  private countPlacement(isNested: boolean): void {
    this.placements += 1;
    if (isNested) this.nestedPlacements += 1;
    const { placements: most } = this.limits;
    if (this.placements <= most && this.nestedPlacements <= this.mostNested) return;
    const said = this.placements > most ? most : Math.floor(this.mostNested);
    throw new ReadError(
      `The drawing places definitions more than ${said.toLocaleString('en')} times, which is more than Ovrel reads part by part.`,
    );
  }

  /** Symbols and other shapes of a library that nothing places. */
  private keepReady(e: XmlElement, inDefinitions: boolean): void {
    for (const child of e.children) {
      if (typeof child === 'string') continue;
      const { id } = child.attributes;
      const isHolder = child.name === 'symbol' || (inDefinitions && (child.name === 'g' || shapeKinds[child.name]));
      if (isHolder && id !== undefined && !this.definitionIndex.has(child)) {
        const fingerprint = this.table.fingerprint(child);
        const kind = child.name === 'g' ? 'group' : child.name;
        const name = labelOf(child) ?? id;
        this.definitions.push({ key: id, kind, name, fingerprint, parts: countShapes(child), unplaced: true });
      } else if (child.name === 'defs' || containers.has(child.name)) this.keepReady(child, child.name === 'defs');
    }
  }

  private define(target: XmlElement): number {
    const known = this.definitionIndex.get(target);
    if (known !== undefined) return known;
    const id = target.attributes['id'] ?? '';
    const index = this.definitions.length;
    const definition: Definition = {
      key: id,
      kind: target.name === 'g' ? 'group' : target.name,
      name: labelOf(target) ?? id,
      fingerprint: this.table.fingerprint(target),
      parts: countShapes(target),
    };
    this.definitions.push(definition);
    this.definitionIndex.set(target, index);
    const inside = holders.has(target.name) || shapeKinds[target.name] ? this.inside(target) : [];
    if (inside.length) this.definitions[index] = { ...definition, inside };
    return index;
  }

  /** The shapes of a definition as parts, in its own coordinates. */
  private inside(target: XmlElement): readonly Part[] {
    const { parts, content } = this;
    const counts = new Map(this.tally);
    const own: Part[] = [];
    this.parts = own;
    const place: Place = {
      matrix: identity,
      style: this.styler.styleOf(target, initialStyle),
      view: this.outerView,
      grouping: ungrouped,
    };
    if (shapeKinds[target.name]) this.walk(target, { ...place, style: initialStyle });
    else this.walkChildren(target, place);
    this.parts = parts;
    this.content = content;
    // What is met in it was counted where it is placed.
    this.tally.clear();
    for (const [what, n] of counts) this.tally.set(what, n);
    return own;
  }

  private add(
    e: XmlElement,
    place: Place,
    kind: string,
    has: {
      first?: number;
      box?: Box | undefined;
      lettering?: Lettering;
      definition?: number;
      props?: Record<string, Scalar>;
    },
  ): void {
    const firstSubpath = has.first ?? this.geometry.subpathCount;
    const subpaths = this.geometry.subpathCount - firstSubpath;
    const box = unite(subpaths ? this.geometry.boxFrom(firstSubpath) : undefined, has.box);
    this.content = unite(this.content, box);
    const id = e.attributes['id'];
    const label = labelOf(e);
    const props: Record<string, Scalar> =
      kind === 'image' || kind === 'foreign object'
        ? framedProps(visibleProps(place.style, 1, false, (r) => this.table.describe(r)))
        : visibleProps(place.style, scaleOf(place.matrix), kind === 'text', (r) => this.table.describe(r));
    if (shapeKinds[e.name]) Object.assign(props, outlineProps(this.geometry, firstSubpath, subpaths, props));
    Object.assign(props, has.props);
    if (label) props['label'] = label;
    const words = has.lettering?.runs.map((r) => r.text).join(' ');
    const definitionName = has.definition === undefined ? undefined : this.definitions[has.definition]?.name;
    this.parts.push({
      key: id,
      kind,
      name:
        label ??
        (words ? `“${words.length > 48 ? `${words.slice(0, 47)}…` : words}”` : undefined) ??
        definitionName ??
        (id && !looksGenerated(id) ? id : kind),
      parents: place.grouping.parents,
      category: place.grouping.category,
      categoryIsKey: place.grouping.categoryIsKey,
      page: 0,
      firstSubpath,
      subpaths,
      box,
      transform: place.matrix,
      props,
      ...(has.lettering ? { lettering: has.lettering } : {}),
      ...(has.definition === undefined ? {} : { definition: has.definition }),
      span: [e.start, e.end],
    });
  }

  private count(what: string): void {
    this.tally.set(what, (this.tally.get(what) ?? 0) + 1);
  }

  private tallyNotes(): string[] {
    const sentences: Record<string, (n: number) => string> = {
      script: (n) =>
        `The drawing carries ${n} ${n === 1 ? 'script' : 'scripts'}. Ovrel keeps them in the file and never runs them.`,
      handler: (n) => `The drawing carries ${n} event ${n === 1 ? 'handler' : 'handlers'}. Ovrel never runs them.`,
      outside: (n) =>
        `${n} ${n === 1 ? 'reference points' : 'references point'} outside the file. Ovrel does not fetch ${n === 1 ? 'it' : 'them'}.`,
      foreign: (n) =>
        `${n} embedded ${n === 1 ? 'object is' : 'objects are'} of a foreign kind (foreignObject); only place and size are compared, and whether the content is the same.`,
      broken: (n) =>
        `${n} ${n === 1 ? 'placement refers' : 'placements refer'} to a definition that is not in the file.`,
      cycle: (n) =>
        `${n} ${n === 1 ? 'definition places itself' : 'definitions place themselves'}; the circle was cut.`,
      path: (n) =>
        `${n} ${n === 1 ? 'shape has' : 'shapes have'} broken coordinates and ${n === 1 ? 'is' : 'are'} drawn as far as they make sense.`,
      transform: (n) => `${n} ${n === 1 ? 'transform was' : 'transforms were'} not understood and left out.`,
      unknown: (n) =>
        `${n} ${n === 1 ? 'element is' : 'elements are'} of a kind that is not part of SVG and ${n === 1 ? 'is' : 'are'} not compared.`,
    };
    return [...this.tally].flatMap(([what, n]) => sentences[what]?.(n) ?? []);
  }
}

const isOutside = (href: string): boolean => href !== '' && !href.startsWith('#') && !href.startsWith('data:');

/** The child of a `<switch>` that is drawn: the first that asks for no extension (SVG 2 §5.9). */
const chosenBranch = (e: XmlElement): XmlElement | undefined =>
  e.children.find(
    (c): c is XmlElement =>
      typeof c !== 'string' &&
      !c.attributes['requiredExtensions'] &&
      !c.attributes['requiredFeatures']?.includes('Extensibility'),
  );

function imageSource(href: string): string {
  const data = /^data:([^;,]*)/.exec(href);
  if (!data) return href.slice(0, 300) || 'none';
  return `embedded ${data[1] || 'image'}, ${Math.max(1, Math.round((href.length * 3) / 4 / 1024))} kB, ${hashText(href).slice(0, 8)}`;
}

/** Fill and stroke mean nothing on images and foreign objects. */
function framedProps(props: Record<string, Scalar>): Record<string, Scalar> {
  return Object.fromEntries(
    Object.entries(props).filter(([name]) => !name.startsWith('fill') && !name.startsWith('stroke')),
  );
}

function countShapes(e: XmlElement): number {
  const own = shapeKinds[e.name] || e.name === 'text' || e.name === 'image' || e.name === 'use' ? 1 : 0;
  return e.children.reduce((sum, c) => sum + (typeof c === 'string' ? 0 : countShapes(c)), own);
}
