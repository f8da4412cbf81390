/** From where a model is drawn flat: plans of its storeys, and its sides. */
import type { Point3 } from '../../../mesh/mesh.ts';
import type { Solid } from '../../../model/solid.ts';
import { extentOfSolid } from '../extent.ts';

/** Right and up on the sheet, and towards whoever looks. */
export interface FlatView {
  readonly name: string;
  readonly right: Point3;
  readonly up: Point3;
  readonly towards: Point3;
  /** What lies nearer than this, along `towards`, is cut away; undefined where nothing is. */
  readonly cut: number | undefined;
}

/** Plans are cut so far above their storey, in millimetres, or so far up of a model without storeys. */
const ABOVE = 1200;
const SHARE = 0.4;

const sides: readonly Omit<FlatView, 'cut'>[] = [
  { name: 'From the front', right: [1, 0, 0], up: [0, 0, 1], towards: [0, -1, 0] },
  { name: 'From the right', right: [0, 1, 0], up: [0, 0, 1], towards: [1, 0, 0] },
  { name: 'From the back', right: [-1, 0, 0], up: [0, 0, 1], towards: [0, 1, 0] },
  { name: 'From the left', right: [0, -1, 0], up: [0, 0, 1], towards: [-1, 0, 0] },
  { name: 'From above', right: [1, 0, 0], up: [0, 1, 0], towards: [0, 0, 1] },
];

const plan = (name: string, cut: number): FlatView => ({
  name,
  right: [1, 0, 0],
  up: [0, 1, 0],
  towards: [0, 0, 1],
  cut,
});

/** Plans first, from below; `cut` is a height that one asked for, in the unit of the model. */
export function flatViewsOf(solid: Solid, cut?: number): readonly FlatView[] {
  const asked = cut === undefined ? [] : [plan(`Plan at ${cut}`, cut)];
  return [...asked, ...plansOf(solid), ...sides.map((side) => ({ ...side, cut: undefined }))];
}

function plansOf(solid: Solid): FlatView[] {
  const storeys = solid.parts.flatMap(({ kind, name, props: { elevation } }) =>
    kind === 'storey' && typeof elevation === 'number' ? [{ name, elevation }] : [],
  );
  const above = ABOVE / (solid.pages[0]?.unitMillimetres ?? 1);
  if (storeys.length > 0) return storeys.map(({ name, elevation }) => plan(`Plan of ${name}`, elevation + above));
  const extent = extentOfSolid(solid);
  return extent ? [plan('Plan', extent[2] + SHARE * (extent[5] - extent[2]))] : [];
}
