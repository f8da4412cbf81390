/** Places and directions, which buildings and products write alike. */
import type { Placing } from '../../../mesh/placing.ts';
import type { Point3 } from '../../../mesh/mesh.ts';
import { cross, dot } from '../../../mesh/vector.ts';
import type { StepFile } from './scan.ts';
import { Ref, type Value } from './values.ts';

/**
 * Of an axis2_placement_3d: z and x as they are said, made square to one another. `first` is where its values begin:
 * 0 in building models, 1 where each record has a name.
 */
export function placingOfAxes(file: StepFile, id: number, first: 0 | 1): Placing {
  const [at, up, along] = file.values(id).slice(first);
  const numbers = (value: Value | undefined, otherwise: Point3): Point3 => pointOf(file, value, first) ?? otherwise;
  const axis = unit(numbers(up, [0, 0, 1])) ?? [0, 0, 1];
  const asked = numbers(along, Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]);
  const share = dot(asked, axis);
  const x = unit([asked[0] - share * axis[0], asked[1] - share * axis[1], asked[2] - share * axis[2]]) ?? [1, 0, 0];
  return [...x, 0, ...cross(axis, x), 0, ...axis, 0, ...numbers(at, [0, 0, 0]), 1];
}

/** Of a cartesian_point or a direction; two numbers lie in the plane. */
function pointOf(file: StepFile, value: Value | undefined, first: 0 | 1): Point3 | undefined {
  if (!(value instanceof Ref)) return undefined;
  const list = file.values(value.id)[first];
  if (!Array.isArray(list)) return undefined;
  const at = (k: number): number => {
    const number = (list as readonly Value[])[k];
    return typeof number === 'number' && Number.isFinite(number) ? number : 0;
  };
  return [at(0), at(1), at(2)];
}

function unit(p: Point3): Point3 | undefined {
  const length = Math.hypot(...p);
  return length > 1e-12 ? [p[0] / length, p[1] / length, p[2] / length] : undefined;
}
