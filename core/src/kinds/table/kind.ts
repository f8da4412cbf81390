import type { Workbook } from '../../model/workbook.ts';
import { noOutlines } from '../drawing/outlines.ts';
import type { Kind } from '../kind.ts';
import { compareTables } from './compare.ts';

export const table: Kind<Workbook> = {
  id: 'table',
  level: 'cells',
  compare: (a, b) => ({ ...compareTables(a.model, b.model), unit: 'cell', tolerance: 0, outlines: noOutlines }),
};
