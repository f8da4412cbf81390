/** A model as a viewer needs it, and as it is drawn on paper. */
import { drawSurfaces } from '../../mesh/draw.ts';
import type { Part } from '../../model/design.ts';
import { ReadError } from '../../model/problem.ts';
import type { Solid } from '../../model/solid.ts';
import type { Bitmap } from '../../raster/bitmap.ts';
import { extentOfSolid } from './extent.ts';
import type { Space, SpacePart } from './packed.ts';
import { surfaceOfPart } from './surfaces.ts';

/** Where nothing is said of a part's colour: the grey of unpainted material. */
const PLAIN: readonly [number, number, number] = [196, 203, 209];

export function spaceOf(solid: Solid): Space {
  const box = extentOfSolid(solid) ?? [0, 0, 0, 1, 1, 1];
  const origin: [number, number, number] = [(box[0] + box[3]) / 2, (box[1] + box[4]) / 2, (box[2] + box[5]) / 2];
  const isPlaced = new Set(
    solid.parts.flatMap(({ definition, space }) => (definition !== undefined && space ? [space.mesh] : [])),
  );
  const meshes = solid.meshes.map(({ points, triangles }, k) => {
    // Surfaces of definitions are told from their own origin.
    const from = isPlaced.has(k) ? [0, 0, 0] : origin;
    return { points: Float32Array.from(points, (value, p) => value - (from[p % 3] as number)), triangles };
  });
  return {
    head: {
      unit: solid.origin.units ?? '',
      unitMillimetres: solid.pages[0]?.unitMillimetres ?? null,
      origin,
      box: [...box],
      pages: solid.pages.map(({ name }) => name),
      meshes: meshes.map(({ points, triangles }) => ({ points: points.length / 3, triangles: triangles.length / 3 })),
      parts: solid.parts.map((part) => partOf(part, origin)),
    },
    meshes,
  };
}

function partOf(
  { kind, name, key, category, page, parents, props, space, definition }: Part,
  origin: readonly number[],
): SpacePart {
  const placing =
    space && definition !== undefined
      ? { placing: space.placing.map((value, k) => (k > 11 && k < 15 ? value - (origin[k - 12] as number) : value)) }
      : {};
  const colour = colourOf(props['colour']);
  return {
    kind,
    name,
    key: key ?? null,
    category,
    page,
    parents: [...parents],
    mesh: space?.mesh ?? -1,
    ...placing,
    ...(colour ? { colour: colour.map((value) => value / 255) } : {}),
    props: { ...props },
  };
}

/** Of “#rrggbb”. */
function colourOf(said: unknown): [number, number, number] | undefined {
  const digits = typeof said === 'string' ? /^#([0-9a-f]{6})/i.exec(said)?.[1] : undefined;
  if (digits === undefined) return undefined;
  const value = Number.parseInt(digits, 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}

/** Throws ReadError where there is nothing to be seen. */
export function drawnSolid(solid: Solid, side: number): Bitmap {
  const drawn = drawSurfaces(
    solid.parts.flatMap((part) => {
      const mesh = surfaceOfPart(solid, part);
      return mesh ? [{ mesh, colour: colourOf(part.props['colour']) ?? PLAIN }] : [];
    }),
    side,
  );
  if (!drawn) throw new ReadError('There is nothing to be seen in this model.', undefined, 'empty');
  return drawn;
}
