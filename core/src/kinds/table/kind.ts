import type { Workbook } from '../../model/workbook.ts';
import { noOutlines } from '../drawing/outlines.ts';
import type { Kind } from '../kind.ts';
import { compareTables, rowsPaired } from './compare.ts';
import { pairTables } from './pairing.ts';

export const table: Kind<Workbook> = {
  id: 'table',
  level: 'cells',
  compare({ model: a }, { model: b }) {
    const { changes, causes, unchanged, notes, parts } = compareTables(a, b);
    const found = { changes, causes, unchanged, notes, unit: 'cell', tolerance: 0, outlines: noOutlines };
    return { ...found, parts: { a, b, parts } };
  },
  step(a, b) {
    const { pairing, edited } = compareTables(a, b);
    return { pairing, edited };
  },
  follow(a, b, parts) {
    const { toB } = rowsPaired(a, b, pairTables(a, b));
    return parts.map((i) => toB[i] ?? -1);
  },
};
