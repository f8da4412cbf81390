import { unite3, type Box3 } from '../../mesh/mesh.ts';
import type { Solid } from '../../model/solid.ts';

/** All that its parts reach; undefined where none has a surface. */
export function extentOfSolid({ parts }: Solid): Box3 | undefined {
  let all: Box3 | undefined;
  for (const { box, space } of parts)
    if (box && space) all = unite3(all, [box[0], box[1], space.rise[0], box[2], box[3], space.rise[1]]);
  return all;
}
