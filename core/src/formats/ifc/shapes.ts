/** The surfaces of a building model, which an engine makes of what the file says of its solids. */
import type { IfcAPI } from 'web-ifc';
import { ownEngine } from '../../model/engines.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Mesh } from '../../mesh/mesh.ts';
import { placedWithin, type Placing } from '../../mesh/placing.ts';
import { weldedMesh } from '../../mesh/weld.ts';

/** A surface and where it stands in the world, in the unit of the file, z up. */
export interface Surface {
  /** Surfaces of one number are the same. */
  readonly number: number;
  readonly placing: Placing;
  readonly colour: string;
}

export interface Shapes {
  /** By the number of an element's record. */
  readonly surfaces: ReadonlyMap<number, readonly Surface[]>;
  readonly meshes: ReadonlyMap<number, Mesh>;
}

/** From the engine's axes, y up, to those of the file. */
const zUp: Placing = [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1];
/** Sides of a circle. */
const SEGMENTS = 24;
/** x, y and z of a point, and of the direction in which the surface looks there. */
const STRIDE = 6;

/** Throws ReadError where the engine cannot make anything of the file, or of a model that is too large. */
export async function shapesOf(bytes: Uint8Array, limits: Limits): Promise<Shapes> {
  // What an engine holds after one model is of no use to the next, and after a fault it is not to be trusted.
  const api = await ownEngine('buildings');
  try {
    return shapesWith(api, bytes, limits);
  } catch (error) {
    if (error instanceof ReadError) throw error;
    throw new ReadError('The shapes of this model could not be worked out.', undefined, 'unsupported');
  } finally {
    disposeOf(api);
  }
}

function disposeOf(api: IfcAPI): void {
  try {
    api.Dispose();
  } catch {
    // It is thrown away in any case.
  }
}

function shapesWith(api: IfcAPI, bytes: Uint8Array, limits: Limits): Shapes {
  const model = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false, CIRCLE_SEGMENTS: SEGMENTS });
  if (model < 0) throw new ReadError('The shapes of this model could not be opened.', undefined, 'unsupported');
  const surfaces = new Map<number, Surface[]>();
  const meshes = new Map<number, Mesh>();
  let corners = 0;
  // Without the engine's own factor, lengths stay in the unit of the file.
  const take: Parameters<IfcAPI['StreamAllMeshes']>[1] = ({ expressID, geometries }) => {
    const own: Surface[] = [];
    for (let k = 0; k < geometries.size(); k++) {
      const { geometryExpressID: number, flatTransformation, color } = geometries.get(k);
      const mesh = meshes.get(number) ?? meshOf(api, model, number);
      meshes.set(number, mesh);
      if (mesh.triangles.length === 0) continue;
      corners += mesh.triangles.length;
      if (corners > limits.points)
        throw new ReadError('The model has more triangles than Ovrel looks into.', undefined, 'too-large');
      const colour = `#${[color.x, color.y, color.z].map(hexOf).join('')}`;
      own.push({ number, placing: placedWithin(zUp, flatTransformation), colour });
    }
    if (own.length > 0) surfaces.set(expressID, own);
  };
  api.StreamAllMeshes(model, take, false);
  return { surfaces, meshes };
}

const hexOf = (value: number): string =>
  Math.round(255 * Math.min(1, Math.max(0, value)))
    .toString(16)
    .padStart(2, '0');

function meshOf(api: IfcAPI, model: number, number: number): Mesh {
  const geometry = api.GetGeometry(model, number);
  const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
  const triangles = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
  const count = Math.floor(vertices.length / STRIDE);
  const points = new Float64Array(3 * count);
  for (let p = 0; p < count; p++) for (let k = 0; k < 3; k++) points[3 * p + k] = vertices[STRIDE * p + k] ?? 0;
  geometry.delete();
  const isSound = points.every(Number.isFinite) && triangles.every((corner) => corner < count);
  // Its arrays are views on the memory of the engine.
  return isSound ? weldedMesh({ points, triangles: Uint32Array.from(triangles) }) : nothing;
}

const nothing: Mesh = { points: new Float64Array(0), triangles: new Uint32Array(0) };
