import { open } from '../../content.ts';
import { stlOf, block } from '../../../mesh/testing.ts';
import type { Mesh } from '../../../mesh/mesh.ts';
import type { Design } from '../../../model/design.ts';
import type { Solid } from '../../../model/solid.ts';
import { flatDesign } from './draw.ts';
import { flatDxf } from './dxf.ts';
import { flatViewsOf } from './views.ts';

async function solidOf(...meshes: Mesh[]): Promise<Solid> {
  return (await open(stlOf(...meshes), 'a.stl')).design as Solid;
}

/** Lines of a page, as people read them: y upwards, rounded. */
function linesOn({ geometry, parts, pages }: Design, name: string): number[][] {
  const page = pages.findIndex((one) => one.name === name);
  return parts
    .filter((part) => part.page === page)
    .flatMap(({ firstSubpath, subpaths }) =>
      Array.from({ length: subpaths }, (_, k) => {
        const first = geometry.starts[firstSubpath + k]!;
        return [0, 1].flatMap((n) => [
          Math.round(geometry.points[2 * (first + n)]! * 100) / 100 + 0,
          Math.round(-geometry.points[2 * (first + n) + 1]! * 100) / 100 + 0,
        ]);
      }),
    );
}
const lengthOf = (lines: readonly number[][]): number =>
  lines.reduce((sum, [x0 = 0, y0 = 0, x1 = 0, y1 = 0]) => sum + Math.hypot(x1 - x0, y1 - y0), 0);

const drawn = (solid: Solid, cut?: number): Design => flatDesign(solid, flatViewsOf(solid, cut));

test('a plan has the outline of what is cut, once; sides have their edges', async () => {
  const design = drawn(await solidOf(block([0, 0, 0], [40, 30, 20])));
  expect(design.pages.map(({ name }) => name)).toEqual([
    'Plan',
    'From the front',
    'From the right',
    'From the back',
    'From the left',
    'From above',
  ]);
  expect(lengthOf(linesOn(design, 'Plan'))).toBeCloseTo(140, 1);
  expect(lengthOf(linesOn(design, 'From the front'))).toBeCloseTo(120, 1);
  expect(lengthOf(linesOn(design, 'From the right'))).toBeCloseTo(100, 1);
});

test('what stands behind is hidden, as far as it is', async () => {
  const before = block([0, 0, 0], [40, 10, 20]);
  const behind = block([30, 20, 5], [20, 10, 10]);
  const front = linesOn(drawn(await solidOf(before, behind)), 'From the front');
  // Of the one behind, two lines of ten from the edge of the one before, and its right side.
  expect(lengthOf(front)).toBeCloseTo(120 + 2 * 10 + 10, 0);
  const back = linesOn(drawn(await solidOf(before, behind)), 'From the back');
  // From there it is whole, and hides ten of an edge of the other one.
  expect(lengthOf(back)).toBeCloseTo(120 + 60 - 10, 0);
});

test('what is above the cut is not there, what is below it is seen', async () => {
  const solid = await solidOf(block([0, 0, 0], [40, 40, 4]), block([10, 10, 10], [10, 10, 10]));
  expect(lengthOf(linesOn(drawn(solid, 5), 'Plan at 5'))).toBeCloseTo(160, 1);
  expect(lengthOf(linesOn(drawn(solid, 15), 'Plan at 15'))).toBeCloseTo(160 + 40, 1);
  expect(drawn(solid, 50).pages[0]?.name).toBe('Plan at 50');
  expect(drawn(solid, -5).pages[0]?.name).toBe('Plan');
});

test('as DXF it is read again with the same lines', async () => {
  const design = drawn(await solidOf(block([0, 0, 0], [40, 30, 20])));
  const dxf = await open(new TextEncoder().encode(flatDxf(design, 0, 1)), 'plan.dxf');
  expect(dxf.kinds[0]).toBe('drawing');
  expect(dxf.design!.origin.units).toBe('mm');
  expect(dxf.design!.parts).toHaveLength(linesOn(design, 'Plan').length);
  expect(lengthOf(linesOn(dxf.design!, dxf.design!.pages[0]!.name))).toBeCloseTo(140, 1);
});
