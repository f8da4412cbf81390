import type { Solid } from '../../model/solid.ts';
import { editedOf } from '../drawing/steps.ts';
import { noOutlines } from '../drawing/outlines.ts';
import { followParts } from '../drawing/follow.ts';
import { compareDesigns } from '../drawing/compare.ts';
import type { Kind } from '../kind.ts';
import { withSameOrigins } from './origins.ts';

export const solid: Kind<Solid> = {
  id: 'solid',
  level: 'solid',
  async compare({ model: a }, { model: b }, options) {
    // What surfaces are compared with is loaded with the first model.
    const { compareSolids } = await import('./compare.ts');
    const { placing, ...compared } = await compareSolids(a, b, options);
    return {
      ...compared,
      unit: b.origin.units ?? 'user unit',
      outlines: placing ? { ...noOutlines, placing: [...placing] } : noOutlines,
      parts: { a, b, parts: compared.parts },
    };
  },
  step: (a, b, options) => editedOf(compareDesigns(...withSameOrigins(a, b), options)),
  follow: followParts,
  picture: async ({ model }, _page, side) => (await import('./space.ts')).drawnSolid(model, side),
};
