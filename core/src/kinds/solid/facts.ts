import { measuresOf } from '../../mesh/measure.ts';
import type { Solid } from '../../model/solid.ts';
import { extentOfSolid } from './extent.ts';
import { wholeSurface } from './surfaces.ts';

/** What can be measured of a model by itself, in its own unit. */
export interface SolidFacts {
  readonly size: readonly [number, number, number];
  readonly volume: number;
  readonly area: number;
  readonly triangles: number;
  readonly closed: boolean;
  /** Edges of one triangle alone, and of triangles one of which is inside out. */
  readonly open: number;
  readonly flipped: number;
}

/** Undefined where nothing of it has a surface. */
export function solidFacts(solid: Solid): SolidFacts | undefined {
  const box = extentOfSolid(solid);
  const all = wholeSurface(solid);
  const measures = measuresOf(all);
  if (!box || !measures) return undefined;
  return {
    size: [box[3] - box[0], box[4] - box[1], box[5] - box[2]],
    volume: measures.volume,
    area: measures.area,
    triangles: all.triangles.length / 3,
    closed: measures.isClosed,
    open: measures.edges.open,
    flipped: measures.edges.flipped,
  };
}
