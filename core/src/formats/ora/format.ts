import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { layeredFormat } from '../shared/layered-format.ts';
import { ora } from './card.ts';
import { sourceOfOra } from './source.ts';

export const format: Format = {
  ...layeredFormat(ora, async (bytes) => (await engine('pictures')).openOra(bytes)),
  source: { layers: sourceOfOra },
};
