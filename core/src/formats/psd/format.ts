import { engine } from '../../model/engines.ts';
import { layeredFormat } from '../shared/layered-format.ts';
import { psd } from './card.ts';

export const format = layeredFormat(psd, async (bytes) => (await engine('pictures')).openPsd(bytes));
