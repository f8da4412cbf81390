/** A heap of triangles as it is written: its bodies, each with the pieces of the file that its triangles stand in. */
import { Hash } from '../../geometry/hash.ts';
import type { Fields } from '../../model/source.ts';
import type { Mesh } from '../../mesh/mesh.ts';
import type { Solid } from '../../model/solid.ts';
import { kept, PiecedSource, type Piece } from './pieced-source.ts';

/** Of each body, what is told of it beside its surface. */
export type Told = Readonly<Record<string, string>>;

export abstract class HeapSource extends PiecedSource {
  protected readonly solid: Solid;

  protected constructor(solid: Solid, told: (part: number) => Told) {
    super(solid.parts.map((_, part) => pieceOf(solid, part, told(part))));
    this.solid = solid;
  }

  /** Bodies have no names of their own: they are who they are by their place among others. */
  override nodeOf(_span: readonly [number, number], index: number): number {
    return index + 1;
  }

  override free(key: string, taken: (key: string) => boolean): string {
    for (let n = 2; ; n++) if (!taken(`${key} ${n}`)) return `${key} ${n}`;
  }
}

function pieceOf(solid: Solid, part: number, told: Told): Piece {
  const say = (): Fields => new Map([...Object.entries(told), ['surface', printOfSurface(solid, part)]]);
  return { key: `body ${part}`, needs: [], start: part, fields: kept(say) };
}

/** Bodies stand where their points are. */
const surfaceOf = ({ parts, meshes }: Solid, part: number): Mesh | undefined => meshes[parts[part]?.space?.mesh ?? -1];

function printOfSurface(solid: Solid, part: number): string {
  const mesh = surfaceOf(solid, part);
  const hash = new Hash();
  const view = new DataView(new ArrayBuffer(8));
  for (const point of mesh?.triangles ?? [])
    for (let k = 0; k < 3; k++) {
      view.setFloat64(0, (mesh?.points[3 * point + k] ?? 0) + 0);
      hash.int(view.getInt32(0)).int(view.getInt32(4));
    }
  return hash.digest();
}

/** For a place that a triangle has a corner at, the part whose triangle it is; −1 for none. */
export function partsByCorner(solid: Solid): (x: number, y: number, z: number) => number {
  const parts = new Map<string, number>();
  solid.parts.forEach((_, index) => {
    const mesh = surfaceOf(solid, index);
    if (!mesh) return;
    for (let k = 0; k < mesh.points.length; k += 3) parts.set(mesh.points.slice(k, k + 3).join(' '), index);
  });
  return (x, y, z) => parts.get(`${x + 0} ${y + 0} ${z + 0}`) ?? -1;
}
