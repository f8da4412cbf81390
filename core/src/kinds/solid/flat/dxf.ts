/** A flat drawing of lines as DXF of the oldest release that every program reads (AC1009), in the unit of the model. */
import type { Design } from '../../../model/design.ts';

/** Line types of the page: its parts by what they are of, each on its layer. */
export function flatDxf({ geometry, parts, pages }: Design, page: number, unitMillimetres: number | undefined): string {
  const out: (string | number)[] = [0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1009'];
  const code = insertUnits.get(unitMillimetres ?? 0);
  if (code !== undefined) out.push(9, '$INSUNITS', 70, code);
  out.push(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES');
  for (const part of parts) {
    if (part.page !== page || !pages[page]) continue;
    const layer = part.category.replaceAll(/[^\w-]+/g, '-').toUpperCase() || '0';
    for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
      const [first, end] = [geometry.starts[s] ?? 0, geometry.starts[s + 1] ?? geometry.points.length / 2];
      for (let p = first; p + 1 < end; p++) {
        const at = (point: number): [number, number] => [
          round(geometry.points[2 * point] ?? 0),
          round(-(geometry.points[2 * point + 1] ?? 0)),
        ];
        const [[x0, y0], [x1, y1]] = [at(p), at(p + 1)];
        out.push(0, 'LINE', 8, layer, 10, x0, 20, y0, 30, 0, 11, x1, 21, y1, 31, 0);
      }
    }
  }
  out.push(0, 'ENDSEC', 0, 'EOF');
  return `${out.join('\n')}\n`;
}

const round = (value: number): number => Math.round(value * 1e6) / 1e6 + 0;

/** Millimetres of a unit, and what DXF calls it. */
const insertUnits: ReadonlyMap<number, number> = new Map([
  [1, 4],
  [10, 5],
  [1000, 6],
  [25.4, 1],
  [304.8, 2],
]);
