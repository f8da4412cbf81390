/** Building models: elements with their types, storeys, disciplines and properties, and their surfaces. */
import { unitedMesh, type Mesh } from '../../mesh/mesh.ts';
import { placedMesh, placedWithin, undone, type Placing } from '../../mesh/placing.ts';
import type { Scalar } from '../../model/design.ts';
import { engine } from '../../model/engines.ts';
import type { Limits } from '../../model/limits.ts';
import { orUnreadable, ReadError } from '../../model/problem.ts';
import type { BuildingShapes, PlacedSurface } from '../../model/shape-engine.ts';
import { UNSEEN, type Solid } from '../../model/solid.ts';
import { SolidBuilder, type Given } from '../shared/solid-builder.ts';
import { Digests } from '../shared/step21/digest.ts';
import { scanStep, type StepFile } from '../shared/step21/scan.ts';
import { buildingIn, type Building, type BuildingElement } from './graph.ts';

/** Places of surfaces within an element count as the same to so many parts of a unit. */
const FINE = 1e5;

/** Throws ReadError where there is no element that can be read. */
export async function readIfc(bytes: Uint8Array, limits: Limits): Promise<Solid> {
  const file = scanStep(bytes, limits.elements);
  const building = buildingIn(file);
  const shapes = await orUnreadable(shapesOf(file.isWhole ? bytes : closedAt(bytes, file.end), limits));
  const builder = new SolidBuilder(limits);
  builder.notes.push(...file.notes);
  if (shapes instanceof ReadError) builder.notes.push(`${shapes.message} Its elements are listed without them.`);
  new Elements(builder, building, shapes instanceof ReadError ? noShapes : shapes, file).add();
  const { unit } = building;
  const origin = {
    formatVersion: file.header.schema,
    ...(building.program ? { program: building.program.slice(0, 80) } : {}),
    ...(unit ? { units: unit.name } : {}),
  };
  const storeys = storeysOf(building);
  return builder.finish('ifc', origin, { storeys, unitMillimetres: unit?.millimetres, tellsWithout: true });
}

const shapesOf = async (bytes: Uint8Array, { points }: Limits): Promise<BuildingShapes> =>
  (await engine('buildings'))(bytes, points);

/** What was cut off, ended behind its last whole record: the engine wants an end. */
function closedAt(bytes: Uint8Array, end: number): Uint8Array {
  const close = new TextEncoder().encode('\nENDSEC;\nEND-ISO-10303-21;\n');
  const closed = new Uint8Array(end + close.length);
  closed.set(bytes.subarray(0, end));
  closed.set(close, end);
  return closed;
}

const noShapes: BuildingShapes = { surfaces: new Map(), meshes: new Map() };

/** The first one is for what stands on no storey. */
const storeysOf = ({ storeys }: Building): string[] => ['No storey', ...storeys.map(({ name }) => name)];

class Elements {
  private readonly builder: SolidBuilder;
  private readonly building: Building;
  private readonly shapes: BuildingShapes;
  private readonly file: StepFile;
  private readonly digests: Digests;
  /** By what a type looks like: its definition. */
  private readonly defined = new Map<string, number>();
  /** Keys of definitions that are taken. */
  private readonly keys = new Set<string>();

  constructor(builder: SolidBuilder, building: Building, shapes: BuildingShapes, file: StepFile) {
    this.builder = builder;
    this.building = building;
    this.shapes = shapes;
    this.file = file;
    this.digests = new Digests(file);
  }

  add(): void {
    const looks = this.building.elements.map((element) => this.lookOf(element));
    const counts = new Map<string, number>();
    for (const look of looks) if (look !== undefined) counts.set(look, (counts.get(look) ?? 0) + 1);
    this.addStoreys();
    this.building.elements.forEach((element, k) => {
      const surfaces = this.surfacesOf(element);
      const look = looks[k];
      const given = this.givenOf(element, surfaces);
      if (surfaces.length === 0) this.builder.addBare(given);
      else if (look !== undefined && element.type && ((counts.get(look) ?? 0) > 1 || this.defined.has(look)))
        this.builder.place(given, this.definitionOf(element, look, surfaces), element.placing);
      else this.builder.add(given, this.joined(surfaces));
    });
  }

  private addStoreys(): void {
    this.building.storeys.forEach(({ id, globalId, name, elevation, height }, k) =>
      this.builder.addBare({
        kind: 'storey',
        name,
        key: globalId,
        page: k + 1,
        category: 'other',
        props: { elevation: elevation ?? height },
        span: this.file.span(id),
      }),
    );
  }

  private surfacesOf({ id, shape }: BuildingElement): readonly PlacedSurface[] {
    return shape !== undefined ? (this.shapes.surfaces.get(id) ?? []) : [];
  }

  private givenOf(
    { id, globalId, kind, name, discipline, storey, parents, props, shape, placing }: BuildingElement,
    surfaces: readonly PlacedSurface[],
  ): Given {
    const [first] = surfaces;
    const seen: Record<string, Scalar> = first ? { colour: first.colour } : this.unseen(shape, placing);
    return {
      kind,
      name,
      key: globalId,
      parents,
      category: discipline,
      page: storey + 1,
      props: { ...seen, ...props },
      span: this.file.span(id),
    };
  }

  /** What cannot be seen is at least known to be the same or another, there or elsewhere. */
  private unseen(shape: number | undefined, placing: Placing): Record<string, Scalar> {
    const [x = 0, y = 0, z = 0] = placing.slice(12).map((value) => Math.round(value * FINE) / FINE + 0);
    return shape === undefined ? {} : { [UNSEEN]: this.digests.of(shape), x, y, z };
  }

  /** Equal for elements of one type that look the same, wherever they stand. */
  private lookOf(element: BuildingElement): string | undefined {
    const surfaces = this.surfacesOf(element);
    const back = undone(element.placing);
    if (!element.type || !back || surfaces.length === 0) return undefined;
    const said = surfaces.map(({ number, placing }) => {
      const within = placedWithin(back, placing).map((value) => Math.round(value * FINE) / FINE + 0);
      return `${number} ${within.join(' ')}`;
    });
    return `${element.type.id} ${said.join('|')}`;
  }

  private definitionOf(element: BuildingElement, look: string, surfaces: readonly PlacedSurface[]): number {
    const known = this.defined.get(look);
    if (known !== undefined) return known;
    const back = undone(element.placing);
    const world = this.joined(surfaces);
    const { name = '', class: type = '' } = element.type ?? {};
    const plain = `${type} ${name}`;
    const key = this.keys.has(plain) ? `${plain} ${this.keys.size}` : plain;
    this.keys.add(key);
    const made = this.builder.define('type', name, key, back ? placedMesh(world, back) : world);
    this.defined.set(look, made);
    return made;
  }

  private joined(surfaces: readonly PlacedSurface[]): Mesh {
    return unitedMesh(
      surfaces.flatMap(({ number, placing }) => {
        const mesh = this.shapes.meshes.get(number);
        return mesh ? [placedMesh(mesh, placing)] : [];
      }),
    );
  }
}
