/** 3MF (core specification 1.3): objects in a package, and a plate on which placements of them are built. */
import { strFromU8 } from 'fflate';
import { SaxesParser } from 'saxes';
import type { Scalar } from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import { asItStands, placedWithin, type Placing } from '../../mesh/placing.ts';
import { weldedMesh } from '../../mesh/weld.ts';
import { SolidBuilder } from '../shared/solid-builder.ts';
import { finite, Numbers } from '../shared/solid-text.ts';
import { zipMember } from '../shared/zip-member.ts';

/** Objects within objects. */
const DEEPEST = 64;
/** The names of the units, and their millimetres. */
const units: Readonly<Record<string, readonly [name: string, millimetres: number]>> = {
  micron: ['µm', 0.001],
  millimeter: ['mm', 1],
  centimeter: ['cm', 10],
  meter: ['m', 1000],
  inch: ['in', 25.4],
  foot: ['ft', 304.8],
};

interface Placement {
  readonly object: string;
  readonly placing: Placing;
}

interface ModelObject {
  readonly id: string;
  readonly name: string;
  readonly props: Readonly<Record<string, Scalar>>;
  readonly points: Numbers;
  readonly triangles: Numbers;
  readonly components: Placement[];
}

const isModel = (name: string): boolean => /^\/?3D\/[^/]+\.model$/i.test(name);

/** Throws ReadError where the package has no model that can be read. */
export function readThreemf(bytes: Uint8Array, limits: Limits): Solid {
  const model = new Model(limits);
  model.read(strFromU8(zipMember(bytes, isModel, limits.bytes)));
  return model.finish();
}

class Model {
  private readonly limits: Limits;
  private readonly objects = new Map<string, ModelObject>();
  private readonly items: Placement[] = [];
  private readonly materials = new Map<string, string[]>();
  private unit = 'millimeter';
  private program = '';
  private metadata: string | undefined;
  private object: ModelObject | undefined;
  private group: string[] = [];

  constructor(limits: Limits) {
    this.limits = limits;
  }

  read(text: string): void {
    const parser = new SaxesParser();
    parser.on('doctype', () => {
      throw new ReadError('The model has a document type declaration, which 3MF does not allow.');
    });
    parser.on('error', (error) => {
      throw new ReadError(`The model is no well-formed XML: ${error.message}.`);
    });
    parser.on('opentag', ({ name, attributes }) => this.opened(localName(name), attributes));
    parser.on('text', (words) => {
      if (this.metadata === 'Application') this.program += words;
    });
    parser.on('closetag', ({ name }) => {
      if (localName(name) === 'metadata') this.metadata = undefined;
    });
    parser.write(text).close();
  }

  private opened(name: string, given: Readonly<Record<string, string>>): void {
    const number = (attribute: string): number => finite(Number(given[attribute] ?? NaN), undefined);
    switch (name) {
      case 'model':
        this.unit = given['unit'] ?? this.unit;
        break;
      case 'metadata':
        this.metadata = given['name'];
        break;
      case 'basematerials':
        this.group = [];
        this.materials.set(given['id'] ?? '', this.group);
        break;
      case 'base':
        this.group.push([given['name'], given['displaycolor']].filter(Boolean).join(' '));
        break;
      case 'object':
        this.begin(given);
        break;
      case 'vertex':
        for (const axis of ['x', 'y', 'z']) this.object?.points.push(number(axis));
        break;
      case 'triangle':
        for (const corner of ['v1', 'v2', 'v3']) this.object?.triangles.push(number(corner));
        break;
      case 'component':
        this.object?.components.push(placementOf(given));
        break;
      case 'item':
        this.items.push(placementOf(given));
    }
  }

  private begin(given: Readonly<Record<string, string>>): void {
    const id = given['id'] ?? '';
    const material = this.materials.get(given['pid'] ?? '')?.[Number(given['pindex'] ?? 0)];
    const props = {
      ...(given['name'] === undefined ? {} : { name: given['name'] }),
      ...(material === undefined ? {} : { material }),
      ...(given['partnumber'] === undefined ? {} : { 'part number': given['partnumber'] }),
    };
    this.object = {
      id,
      name: given['name'] ?? `object ${id}`,
      props,
      points: new Numbers(3 * this.limits.points),
      triangles: new Numbers(this.limits.points),
      components: [],
    };
    if (this.objects.has(id)) throw new ReadError(`Two objects have the number ${id}.`);
    this.objects.set(id, this.object);
  }

  finish(): Solid {
    const builder = new SolidBuilder(this.limits);
    const definitions = new Map<string, number>();
    const counts = this.counted();
    const draw = ({ object: id, placing }: Placement, parents: readonly string[]): void => {
      const object = this.objects.get(id);
      if (!object) throw new ReadError(`The object ${id} is placed, but is not there.`);
      if (parents.length > DEEPEST) throw new ReadError('Objects stand within one another without an end.');
      const given = { kind: 'object', name: object.name, parents, props: object.props };
      if (object.triangles.length > 0) {
        if ((counts.get(id) ?? 0) > 1) {
          const known = definitions.get(id) ?? builder.define('object', object.name, object.name, meshOf(object));
          definitions.set(id, known);
          builder.place(given, known, placing);
        } else builder.add({ ...given, key: object.name }, meshOf(object), placing);
      }
      for (const inner of object.components)
        draw({ object: inner.object, placing: placedWithin(placing, inner.placing) }, [...parents, object.name]);
    };
    for (const item of this.items) draw(item, []);
    const [unit, millimetres] = units[this.unit] ?? [this.unit, undefined];
    const program = this.program.trim().slice(0, 80);
    return builder.finish(
      'threemf',
      { units: unit, ...(program ? { program } : {}) },
      { unitMillimetres: millimetres },
    );
  }

  /** How often each object is seen; never more than so many are counted, so that a bomb of components ends here. */
  private counted(): Map<string, number> {
    const counts = new Map<string, number>();
    let placements = 0;
    const count = (id: string, depth: number): void => {
      if (depth > DEEPEST) throw new ReadError('Objects stand within one another without an end.');
      if (++placements > this.limits.placements)
        throw new ReadError('The model has more placements than Ovrel looks into.', undefined, 'too-large');
      counts.set(id, (counts.get(id) ?? 0) + 1);
      for (const { object } of this.objects.get(id)?.components ?? []) count(object, depth + 1);
    };
    for (const { object } of this.items) count(object, 0);
    return counts;
  }
}

function meshOf({ id, points, triangles }: ModelObject): ReturnType<typeof weldedMesh> {
  const count = points.length / 3;
  const corners = Uint32Array.from(triangles.finish());
  if (corners.some((corner) => corner >= count))
    throw new ReadError(`A triangle of object ${id} names a point that is not there.`);
  return weldedMesh({ points: points.finish(), triangles: corners });
}

/** Twelve numbers, the axes first and the shift last (3MF, 3.3). */
function placementOf(given: Readonly<Record<string, string>>): Placement {
  const object = given['objectid'] ?? '';
  const said = given['transform'];
  if (said === undefined) return { object, placing: asItStands };
  const m = said
    .trim()
    .split(/\s+/)
    .map((value) => finite(Number(value), undefined));
  if (m.length !== 12) throw new ReadError(`A placement of object ${object} has no twelve numbers.`);
  return { object, placing: [...m.slice(0, 3), 0, ...m.slice(3, 6), 0, ...m.slice(6, 9), 0, ...m.slice(9, 12), 1] };
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);
