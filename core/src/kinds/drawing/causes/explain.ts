/**
 * From a list of part changes to the fewest causes. A change may have several sides (moved and recoloured); each
 * side, a facet, is explained by one cause. Explainers run in turn, each taking only what those before it left.
 */
import type { CauseDraft } from '../../../causes/draft.ts';
import { comings } from './comings.ts';
import { definitionCauses } from './definitions.ts';
import { layerCauses } from './layers.ts';
import { motions } from './motions.ts';
import { Open, type DrawingEvidence, type Explanation } from './open.ts';
import { properties } from './properties.ts';
import { respacing } from './respacing.ts';
import { rewriting, soleRegroupings } from './rewriting.ts';
import { texts } from './texts.ts';
import { wholes } from './wholes.ts';
import { writtenOtherwise } from './written-otherwise.ts';

const explainers: readonly ((open: Open) => Explanation[])[] = [
  wholes,
  soleRegroupings,
  writtenOtherwise,
  rewriting,
  definitionCauses,
  layerCauses,
  respacing,
  motions,
  texts,
  comings,
  properties,
];

export function explain(evidence: DrawingEvidence): CauseDraft[] {
  const open = new Open(evidence);
  const found: Explanation[] = [];
  for (const explainer of explainers) {
    for (const explanation of explainer(open)) {
      open.take(explanation.facets);
      found.push(explanation);
    }
  }
  if (found.length === 1 && found[0]?.kind === 'renumbered')
    found[0] = { ...found[0], saying: { code: 'renumbered', values: { only: true } } };
  return found.map(({ facets, ...cause }) => ({ ...cause, changes: [...new Set(facets.map(([k]) => k))] }));
}
