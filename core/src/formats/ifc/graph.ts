/** What a building model says of its elements, beside their shapes (ISO 16739-1, of any of its releases). */
import type { Scalar } from '../../model/design.ts';
import { ReadError } from '../../model/problem.ts';
import { asItStands, placedWithin, type Placing } from '../../mesh/placing.ts';
import type { StepFile } from '../shared/step21/scan.ts';
import { Enumerated, Ref, Typed, type Value } from '../shared/step21/values.ts';
import { classOf, type Discipline } from './classes.ts';
import { append, refsIn, shapeOfRelation } from './relations.ts';
import { placingOfAxes } from '../shared/step21/axes.ts';
import { lengthIn, type LengthUnit } from '../shared/step21/length.ts';

/** Placements within placements. */
const DEEPEST = 200;
/** Elements of a class that are looked at to know what the class is. */
const SAMPLE = 40;
/** Longest value of a property that is kept, in letters. */
const LONGEST = 400;

export interface Storey {
  readonly id: number;
  readonly globalId: string;
  readonly name: string;
  /** In the unit of the file; undefined where it does not say. */
  readonly elevation: number | undefined;
  /** Where it stands: the height of its placement. */
  readonly height: number;
}

export interface TypeOfElement {
  readonly id: number;
  readonly class: string;
  readonly name: string;
}

export interface BuildingElement {
  /** Number of its record. */
  readonly id: number;
  readonly globalId: string;
  readonly kind: string;
  readonly name: string;
  readonly discipline: Discipline;
  readonly type: TypeOfElement | undefined;
  /** Index into the storeys; −1 for none. */
  readonly storey: number;
  /** What holds it: buildings, assemblies, outermost first. */
  readonly parents: readonly string[];
  readonly props: Readonly<Record<string, Scalar>>;
  readonly placing: Placing;
  /** Number of the record of its shape; undefined where it has none. */
  readonly shape: number | undefined;
}

export interface Building {
  readonly unit: LengthUnit | undefined;
  readonly program: string;
  readonly storeys: readonly Storey[];
  readonly elements: readonly BuildingElement[];
}

/** Openings are told by what they are cut out of. */
const NO_ELEMENTS = new Set([
  'IFCOPENINGELEMENT',
  'IFCOPENINGSTANDARDCASE',
  'IFCVOIDINGFEATURE',
  'IFCVIRTUALELEMENT',
  'IFCANNOTATION',
  'IFCGRID',
  'IFCPORT',
  'IFCDISTRIBUTIONPORT',
  'IFCSITE',
  'IFCBUILDING',
  'IFCBUILDINGSTOREY',
]);
/** Properties of these sets mean the same wherever they stand (ISO 16739-1, 6.1.4). */
const STANDARD_SET = /^(?:Pset|Qto)_/;
const STOREY = 'IFCBUILDINGSTOREY';

/** Throws ReadError where it holds no element at all. */
export function buildingIn(file: StepFile): Building {
  return new Graph(file).building();
}

class Graph {
  private readonly file: StepFile;
  private readonly placings = new Map<number, Placing>();
  private readonly holders = new Map<number, number>();
  private readonly types = new Map<number, number>();
  private readonly sets = new Map<number, number[]>();
  private readonly materials = new Map<number, string>();
  private readonly classifications = new Map<number, string>();
  private readonly systems = new Map<number, string>();
  private readonly setProps = new Map<number, Readonly<Record<string, Scalar>>>();

  constructor(file: StepFile) {
    this.file = file;
    this.relate();
  }

  building(): Building {
    const { file } = this;
    const storeys = file
      .ofType(STOREY)
      .map((id) => this.storey(id))
      .sort((p, q) => p.height - q.height);
    const numbers = new Map(storeys.map(({ id }, k) => [id, k]));
    const elements = this.elementIds().map((id) => this.element(id, numbers));
    if (elements.length === 0)
      throw new ReadError('There is no element of a building in this file.', undefined, 'empty');
    return { unit: this.unit(), program: this.program(), storeys, elements };
  }

  /** Whatever stands somewhere, or is part of something that does, in the order of the file. */
  private elementIds(): number[] {
    const ids: number[] = [];
    for (const type of this.file.types) {
      if (!type.startsWith('IFC') || NO_ELEMENTS.has(type)) continue;
      const all = this.file.ofType(type);
      if (this.areElements(all)) for (const id of all) ids.push(id);
    }
    return ids.sort((p, q) => this.file.span(p)[0] - this.file.span(q)[0]);
  }

  /** Elements of one class are alike, but single ones may stand nowhere and have no shape. */
  private areElements(ids: readonly number[]): boolean {
    return ids.slice(0, SAMPLE).some((id) => {
      const values = this.file.values(id);
      const placement = values[5];
      const shape = values[6];
      return (
        typeof values[0] === 'string' &&
        values[0].length === 22 &&
        ((placement instanceof Ref && /PLACEMENT$/.test(this.file.typeOf(placement.id) ?? '')) ||
          (shape instanceof Ref && this.file.typeOf(shape.id) === 'IFCPRODUCTDEFINITIONSHAPE'))
      );
    });
  }

  private element(id: number, storeys: ReadonlyMap<number, number>): BuildingElement {
    const { file } = this;
    const values = file.values(id);
    const written = file.typeOf(id) ?? '';
    const typeId = this.types.get(id);
    const type =
      typeId === undefined
        ? undefined
        : { id: typeId, class: file.typeOf(typeId) ?? '', name: words(file.values(typeId)[2]) || `type ${typeId}` };
    const { said, discipline } = classOf(written, type?.class, this.systems.get(id));
    const name = words(values[2]);
    const holders = this.holdersOf(id);
    const storey = holders.find((holder) => storeys.has(holder));
    return {
      id,
      globalId: words(values[0]),
      kind: said,
      name: name || `${said} ${words(values[7])}`.trim(),
      discipline,
      type,
      storey: storey === undefined ? -1 : (storeys.get(storey) ?? -1),
      parents: holders
        .filter((holder) => file.typeOf(holder) !== STOREY && file.typeOf(holder) !== 'IFCPROJECT')
        .map((holder) => words(file.values(holder)[2]))
        .filter(Boolean)
        .reverse(),
      props: this.propsOf(id, typeId, values, type),
      placing: this.placingOf(values[5]),
      shape: values[6] instanceof Ref ? values[6].id : undefined,
    };
  }

  private propsOf(
    id: number,
    typeId: number | undefined,
    values: readonly Value[],
    type: TypeOfElement | undefined,
  ): Record<string, Scalar> {
    const props: Record<string, Scalar> = {};
    const set = (name: string, value: string | undefined): void => {
      if (value) props[name] = value.slice(0, LONGEST);
    };
    set('name', words(values[2]));
    set('type', type?.name);
    set('description', words(values[3]));
    set('tag number', words(values[7]));
    set('material', this.materials.get(id) ?? (typeId === undefined ? undefined : this.materials.get(typeId)));
    set('classification', this.classifications.get(id));
    set('system', this.systems.get(id));
    const predefined = values.slice(8).find((value): value is Enumerated => value instanceof Enumerated);
    if (predefined && predefined.name !== 'NOTDEFINED' && predefined.name.length > 1)
      set('predefined type', predefined.name.toLowerCase());
    const own = this.sets.get(id) ?? [];
    // What an element says of itself goes before what its type says.
    for (const from of [...this.setsOfType(typeId), ...own]) Object.assign(props, this.propsIn(from));
    return props;
  }

  private setsOfType(typeId: number | undefined): readonly number[] {
    if (typeId === undefined) return [];
    return [...refsIn(this.file.values(typeId)[5]), ...(this.sets.get(typeId) ?? [])];
  }

  /** Of a set of properties or quantities: those of standard sets by their names, others by “set.property”. */
  private propsIn(id: number): Readonly<Record<string, Scalar>> {
    const known = this.setProps.get(id);
    if (known) return known;
    const { file } = this;
    const values = file.values(id);
    const set = words(values[2]) || 'properties';
    const isQuantities = file.typeOf(id) === 'IFCELEMENTQUANTITY';
    const out: Record<string, Scalar> = {};
    for (const property of refsIn(values[isQuantities ? 5 : 4])) {
      const said = file.values(property);
      const value = isQuantities ? scalar(said[3]) : valueOfProperty(file.typeOf(property), said);
      if (value === undefined) continue;
      const name = words(said[0]);
      out[STANDARD_SET.test(set) ? name : `${set}.${name}`] =
        typeof value === 'string' ? value.slice(0, LONGEST) : value;
    }
    this.setProps.set(id, out);
    return out;
  }

  private storey(id: number): Storey {
    const values = this.file.values(id);
    const elevation = values[9];
    const height = this.placingOf(values[5])[14] ?? 0;
    return {
      id,
      globalId: words(values[0]),
      name: words(values[2]) || `Storey ${id}`,
      elevation: typeof elevation === 'number' ? elevation : undefined,
      height,
    };
  }

  /** From the nearest outwards. */
  private holdersOf(id: number): number[] {
    const out: number[] = [];
    for (let at = this.holders.get(id); at !== undefined && out.length < DEEPEST; at = this.holders.get(at)) {
      if (out.includes(at)) break;
      out.push(at);
    }
    return out;
  }

  private relate(): void {
    const { file } = this;
    const each = (type: string, keep: (of: number, to: number) => void): void => {
      const shape = shapeOfRelation(type);
      for (const id of shape ? file.ofType(type) : []) {
        const values = file.values(id);
        const to = shape && values[shape.relating];
        if (to instanceof Ref) for (const of of refsIn(values[shape?.related ?? -1])) keep(of, to.id);
      }
    };
    for (const holding of ['IFCRELAGGREGATES', 'IFCRELNESTS', 'IFCRELCONTAINEDINSPATIALSTRUCTURE'])
      each(holding, (part, whole) => void this.holders.set(part, whole));
    each('IFCRELDEFINESBYTYPE', (part, type) => void this.types.set(part, type));
    each('IFCRELDEFINESBYPROPERTIES', (part, set) => append(this.sets, part, set));
    each(
      'IFCRELASSOCIATESMATERIAL',
      (part, material) => void this.materials.set(part, [...this.materialNames(material)].join(', ')),
    );
    each('IFCRELASSOCIATESCLASSIFICATION', (part, reference) => {
      const values = file.values(reference);
      this.classifications.set(part, [words(values[1]), words(values[2])].filter(Boolean).join(' '));
    });
    each('IFCRELASSIGNSTOGROUP', (part, group) => {
      if (/SYSTEM|CIRCUIT/.test(file.typeOf(group) ?? ''))
        this.systems.set(part, [words(file.values(group)[2]), ...enumeratedIn(file.values(group))].join(' ').trim());
    });
  }

  /** Layers, constituents and lists of materials, by the names of the materials. */
  private *materialNames(id: number, depth = 0): Generator<string> {
    if (depth > 6) return;
    const type = this.file.typeOf(id) ?? '';
    const values = this.file.values(id);
    if (type === 'IFCMATERIAL') {
      yield words(values[0]);
      return;
    }
    for (const value of values)
      for (const ref of refsIn(value))
        if (this.file.typeOf(ref)?.startsWith('IFCMATERIAL')) yield* this.materialNames(ref, depth + 1);
  }

  private placingOf(value: Value | undefined, depth = 0): Placing {
    if (!(value instanceof Ref) || depth > DEEPEST) return asItStands;
    const known = this.placings.get(value.id);
    if (known) return known;
    const [within, own] = this.file.values(value.id);
    const outer = this.file.typeOf(value.id) === 'IFCLOCALPLACEMENT' ? this.placingOf(within, depth + 1) : asItStands;
    const placing = own instanceof Ref ? placedWithin(outer, placingOfAxes(this.file, own.id, 0)) : outer;
    this.placings.set(value.id, placing);
    return placing;
  }

  private unit(): LengthUnit | undefined {
    for (const assignment of this.file.ofType('IFCUNITASSIGNMENT')) {
      const found = lengthIn(this.file, this.file.values(assignment)[0]);
      if (found) return found;
    }
    return undefined;
  }

  private program(): string {
    const [first] = this.file.ofType('IFCAPPLICATION');
    const values = first === undefined ? [] : this.file.values(first);
    const said = [words(values[2]), words(values[1])].filter(Boolean).join(' ');
    return said || this.file.header.program || this.file.header.writer;
  }
}

const words = (value: Value | undefined): string => (typeof value === 'string' ? value.trim() : '');

const enumeratedIn = (values: readonly Value[]): string[] =>
  values.flatMap((value) => (value instanceof Enumerated && value.name !== 'NOTDEFINED' ? [value.name] : []));

/** Of properties with one value, with several, with bounds. */
function valueOfProperty(type: string | undefined, values: readonly Value[]): Scalar | undefined {
  switch (type) {
    case 'IFCPROPERTYSINGLEVALUE':
      return scalar(values[2]);
    case 'IFCPROPERTYENUMERATEDVALUE':
    case 'IFCPROPERTYLISTVALUE':
      return joined(values[2]);
    case 'IFCPROPERTYBOUNDEDVALUE': {
      const [upper, lower] = [scalar(values[2]), scalar(values[3])];
      return `${lower ?? '…'} to ${upper ?? '…'}`;
    }
    default:
      return undefined;
  }
}

const joined = (value: Value | undefined): string | undefined =>
  Array.isArray(value) ? (value as readonly Value[]).map((one) => String(scalar(one) ?? '')).join(', ') : undefined;

function scalar(value: Value | undefined): Scalar | undefined {
  if (value instanceof Typed) return scalar(value.value);
  if (value instanceof Enumerated) return truth[value.name] ?? value.name;
  if (typeof value === 'number' || typeof value === 'string') return value;
  return joined(value);
}

const truth: Readonly<Record<string, Scalar>> = { T: true, F: false, U: 'unknown' };
