/** What of an outline shows only by how it is stroked or filled: whether it is closed, and which way its rings go. */
import { gap, type Box } from '../../geometry/box.ts';
import type { GeometryBuilder } from '../../geometry/builder.ts';

type Props = Readonly<Record<string, string | number | boolean>>;

/** Properties of the subpaths from `first` on, for a part that is painted as `painted` says. */
export function outlineProps(
  geometry: GeometryBuilder,
  first: number,
  count: number,
  painted: Props,
): Record<string, string> {
  const subpaths = Array.from({ length: count }, (_, i) => first + i);
  const props: Record<string, string> = {};
  if (painted['stroke'] !== 'none') {
    const open = subpaths.filter((s) => !geometry.endsWhereItBegan(s)).length;
    if (open > 0) props['outline'] = count === 1 ? 'open' : `${open} of ${count} open`;
  }
  // With the other rule of filling, directions do not count.
  if (count > 1 && painted['fill'] !== 'none' && painted['fill-rule'] !== 'evenodd') {
    const rings = directions(subpaths.map((s) => geometry.pointsOf(s)));
    if (rings) props['rings'] = rings;
  }
  return props;
}

/** Many rings of one part are letters or hatching: what they fill is told by their shapes. */
const MOST_RINGS = 64;

/** Which rings go against the first; undefined where none lies within reach of another, so that it does not show. */
function directions(rings: readonly Float64Array[]): string | undefined {
  if (rings.length > MOST_RINGS) return undefined;
  const boxes = rings.map(boxOf);
  const meet = boxes.some((box, i) => boxes.slice(i + 1).some((other) => gap(box, other) <= 0));
  if (!meet) return undefined;
  const signs = rings.map((ring) => Math.sign(areaOf(ring)));
  const against = signs.filter((sign) => sign * (signs[0] ?? 1) < 0).length;
  return against === 0 ? undefined : `${against} of ${rings.length} the other way round`;
}

function areaOf(points: Float64Array): number {
  let area = 0;
  for (let i = 0; i < points.length; i += 2) {
    const next = (i + 2) % points.length;
    area += (points[i] as number) * (points[next + 1] as number) - (points[next] as number) * (points[i + 1] as number);
  }
  return area;
}

function boxOf(points: Float64Array): Box {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 2) {
    box[0] = Math.min(box[0], points[i] as number);
    box[1] = Math.min(box[1], points[i + 1] as number);
    box[2] = Math.max(box[2], points[i] as number);
    box[3] = Math.max(box[3], points[i + 1] as number);
  }
  return box;
}
