/** Numbers and parts in words, for the "from" and "to" of a difference. */
import { height, width } from '../../geometry/box.ts';
import type { Design, Part } from '../../model/design.ts';
import { pointRange } from '../../match/same-geometry.ts';

/** Up to two decimals, no trailing zeros, a real minus sign. */
export function say(n: number): string {
  const rounded = Math.round(n * 100) / 100;
  return String(Object.is(rounded, -0) ? 0 : rounded).replace('-', '−');
}

/** A shift with enough digits to show that it is not zero. */
export const sayShift = (n: number): string =>
  n !== 0 && Math.abs(n) < 0.01 ? n.toPrecision(1).replace('-', '−') : say(n);

export const sayPoint = (x: number, y: number): string => `(${say(x)}, ${say(y)})`;

export function sayGeometry(design: Design, part: Part): string {
  const [from, to] = pointRange(design, part);
  const size = part.box ? `${say(width(part.box))} × ${say(height(part.box))}` : 'no extent';
  return part.kind === 'rectangle' || part.kind === 'circle' || part.kind === 'ellipse' || part.kind === 'image'
    ? size
    : `${size}, ${to - from} points`;
}
