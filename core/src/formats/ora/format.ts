import { engine } from '../../model/engines.ts';
import { layeredFormat } from '../shared/layered-format.ts';
import { ora } from './card.ts';

export const format = layeredFormat(ora, async (bytes) => (await engine('pictures')).openOra(bytes));
