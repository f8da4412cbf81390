/** Puts a model in space together, for readers. */
import { bodiesOf } from '../../mesh/bodies.ts';
import { boxOfPoints, diagonal3, unite3, type Box3, type Mesh } from '../../mesh/mesh.ts';
import { asItStands, placedMesh, type Placing } from '../../mesh/placing.ts';
import { printOf } from '../../mesh/print.ts';
import {
  emptyGeometry,
  noTraits,
  plainPart,
  type Definition,
  type Origin,
  type Page,
  type Part,
  type Scalar,
} from '../../model/design.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';

/** Bodies of a heap of triangles that are told apart, at most: what has more is noise of a scanner. */
const MOST_BODIES = 2000;
/** Share of a surface's size within which its points count as the same in its definition's fingerprint. */
const FINE = 1e-6;

/** What is known of a part beside its surface. */
export interface Given {
  readonly kind: string;
  readonly name: string;
  readonly key?: string | undefined;
  readonly parents?: readonly string[];
  readonly category?: string;
  readonly page?: number;
  readonly props?: Readonly<Record<string, Scalar>>;
  readonly span?: readonly [number, number];
}

export interface Finish {
  /** Names of the pages. */
  readonly storeys?: readonly string[];
  readonly unitMillimetres?: number | undefined;
  readonly tellsWithout?: boolean;
}

export class SolidBuilder {
  private readonly meshes: Mesh[] = [];
  private readonly parts: Part[] = [];
  private readonly definitions: Definition[] = [];
  private readonly limits: Limits;
  private corners = 0;
  private box: Box3 | undefined;
  readonly notes: string[] = [];

  constructor(limits: Limits) {
    this.limits = limits;
  }

  /** A surface where it stands. */
  add(given: Given, mesh: Mesh, placing: Placing = asItStands): void {
    const placed = placedMesh(mesh, placing);
    this.count(placed);
    this.meshes.push(placed);
    this.parts.push(this.partOf(given, placed, this.meshes.length - 1, asItStands));
  }

  /** A part without a surface. */
  addBare(given: Given): void {
    this.parts.push(plainPart({ ...given, key: given.key, box: undefined }));
  }

  /** A heap of triangles: each body by itself. */
  addBodies(given: Given, mesh: Mesh): void {
    const bodies = bodiesOf(mesh);
    if (bodies.length === 1 || bodies.length > MOST_BODIES) {
      if (bodies.length > 1)
        this.notes.push(
          `Its ${bodies.length.toLocaleString('en')} bodies are looked at as one: they are too many to be told apart.`,
        );
      this.add(given, mesh);
      return;
    }
    bodies.forEach((body, k) => this.add({ ...given, name: `${given.name} ${k + 1}` }, body));
  }

  /** A surface that parts are placements of; gives its number. */
  define(kind: string, name: string, key: string, mesh: Mesh): number {
    const box = boxOfPoints(mesh.points);
    this.count(mesh);
    this.meshes.push(mesh);
    const inside = this.partOf({ kind: 'surface', name }, mesh, this.meshes.length - 1, asItStands, false);
    const fingerprint = printOf(mesh, (box ? diagonal3(box) : 0) * FINE || FINE).toString(36);
    this.definitions.push({ key, kind, name, fingerprint, parts: 1, content: [inside] });
    return this.definitions.length - 1;
  }

  /** A placement of what was defined. */
  place(given: Given, definition: number, placing: Placing): void {
    const mesh = this.definitions[definition]?.content?.[0]?.space?.mesh ?? -1;
    const surface = this.meshes[mesh];
    if (!surface) throw new RangeError(`there is no definition ${definition}`);
    this.parts.push({ ...this.partOf(given, surface, mesh, placing), definition });
  }

  /** Throws ReadError where it has no surface, unless its parts tell enough without. */
  finish(
    format: string,
    origin: Origin,
    { storeys = ['Model'], unitMillimetres, tellsWithout = false }: Finish = {},
  ): Solid {
    if (this.parts.length === 0 || (!tellsWithout && this.parts.every(({ space }) => space === undefined)))
      throw new ReadError('There is no surface in this model.', undefined, 'empty');
    const [x0 = 0, y0 = 0, , x1 = 1, y1 = 1] = this.box ?? [];
    const unit = unitMillimetres === undefined ? {} : { unitMillimetres };
    const pages = storeys.map((name): Page => ({ name, box: [x0, y0, x1, y1], ...unit }));
    return {
      format,
      traits: noTraits,
      origin,
      pages,
      parts: this.parts,
      definitions: this.definitions,
      geometry: emptyGeometry,
      meshes: this.meshes,
      notes: this.notes,
      sequential: false,
    };
  }

  private partOf(given: Given, mesh: Mesh, index: number, placing: Placing, isSeen = true): Part {
    const box = boxOfPoints(placing === asItStands ? mesh.points : placedMesh(mesh, placing).points);
    if (!box) return plainPart({ ...given, key: given.key, box: undefined });
    if (!box.every(Number.isFinite)) throw new ReadError('There are places in this model that are no numbers.');
    if (isSeen) this.box = unite3(this.box, box);
    return plainPart({
      ...given,
      key: given.key,
      box: [box[0], box[1], box[3], box[4]],
      space: { mesh: index, placing, rise: [box[2], box[5]] },
    });
  }

  private count(mesh: Mesh): void {
    this.corners += mesh.triangles.length;
    if (this.corners > this.limits.points)
      throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
  }
}
