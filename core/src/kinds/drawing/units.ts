import type { Registration } from '../../match/registration.ts';
import type { Design } from '../../model/design.ts';

/** True where the drawing's size changed by just what its unit did. */
export function unitsExplain(a: Design, b: Design, { scale, turn }: Registration): boolean {
  const from = a.pages[0]?.unitMillimetres;
  const to = b.pages[0]?.unitMillimetres;
  return (
    from !== undefined &&
    to !== undefined &&
    from !== to &&
    Math.abs(turn) < 1e-6 &&
    Math.abs(scale / (from / to) - 1) < 1e-4
  );
}
