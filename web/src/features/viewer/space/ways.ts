/** Ways between places on a model, for saying them. Pure. */
import { sayLength } from '../measure.ts';

export type Spot3 = readonly [x: number, y: number, z: number];

const said = (value: number): string => sayLength(value).replace('-', '−');

/** “1,250.5 mm: 1,000 along x, 0 along y, 750.5 along z”; nothing before there are two places. */
export function sayWay(spots: readonly Spot3[], unit: string): string | undefined {
  const [from, to] = spots.slice(-2);
  if (!from || !to) return undefined;
  const along = to.map((value, k) => value - (from[k] as number));
  const length = `${said(Math.hypot(...along))} ${unit}`.trim();
  const axes = along.map((value, k) => `${said(Math.abs(value) < 1e-9 ? 0 : value)} along ${'xyz'.charAt(k)}`);
  return `${length}: ${axes.join(', ')}`;
}
