/** The surfaces of a building model, which an engine makes of what the file says of its solids. */
import { IfcAPI, LogLevel } from 'web-ifc';
import { ReadError } from '../model/problem.ts';
import type { BuildingShapes, PlacedSurface } from '../model/shape-engine.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { placedWithin, type Placing } from '../mesh/placing.ts';
import { weldedMesh } from '../mesh/weld.ts';

/** From the engine's axes, y up, to those of the file. */
const zUp: Placing = [1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1];
/** Sides of a circle. */
const SEGMENTS = 24;
/** x, y and z of a point, and of the direction in which the surface looks there. */
const STRIDE = 6;

/** Undefined where the engine makes nothing of it. Throws ReadError of a model of more than so many corners. */
export async function buildingShapes(bytes: Uint8Array, most: number): Promise<BuildingShapes | undefined> {
  const api = new IfcAPI();
  await api.Init();
  api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
  const model = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false, CIRCLE_SEGMENTS: SEGMENTS });
  return model < 0 ? undefined : shapesWith(api, model, most);
}

function shapesWith(api: IfcAPI, model: number, most: number): BuildingShapes {
  const surfaces = new Map<number, PlacedSurface[]>();
  const meshes = new Map<number, Mesh>();
  let corners = 0;
  // Without the engine's own factor, lengths stay in the unit of the file.
  const take: Parameters<IfcAPI['StreamAllMeshes']>[1] = ({ expressID, geometries }) => {
    const own: PlacedSurface[] = [];
    for (let k = 0; k < geometries.size(); k++) {
      const { geometryExpressID: number, flatTransformation, color } = geometries.get(k);
      const mesh = meshes.get(number) ?? meshOf(api, model, number);
      meshes.set(number, mesh);
      if (mesh.triangles.length === 0) continue;
      corners += mesh.triangles.length;
      if (corners > most)
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
