/** What is said of tables, with the values that make it come out differently. */
import type { Saying } from './say.ts';

export const saidOfTables: readonly (readonly [Saying, string])[] = [
  [
    { code: 'formula-to-constant', values: { at: 'G8', value: '412', formula: '=D8*E8', result: '394.13', count: 1 } },
    'Formula in G8 replaced by 412: it was =D8*E8, which gives 394.13',
  ],
  [
    { code: 'formula-to-constant', values: { at: 'G8', value: '412', formula: '=D8*E8', result: '', count: 1 } },
    'Formula in G8 replaced by 412: it was =D8*E8',
  ],
  [
    { code: 'formula-to-constant', values: { at: 'G8:G20', value: '412', formula: '=D8*E8', result: '', count: 13 } },
    '13 formulas in G8:G20 replaced by values: the first was =D8*E8',
  ],
  [{ code: 'error-came', values: { at: 'B6', error: '#REF!', count: 1 } }, 'B6 is #REF! now'],
  [{ code: 'error-came', values: { at: 'B6', error: '#REF!', count: 4 } }, '#REF! came up in 4 cells, first in B6'],
  [
    { code: 'range-short', values: { at: 'B7', formula: '=SUM(B2:B5)', left: '6' } },
    '=SUM(B2:B5) in B7 leaves out row 6, which was added beside it',
  ],
  [
    { code: 'formulas-changed', values: { at: 'D5', from: '=B5', to: '=C5', count: 1 } },
    'Formula in D5 changed: =B5 → =C5',
  ],
  [
    { code: 'formulas-changed', values: { at: 'D5:D240', from: '=B5', to: '=C5', count: 236 } },
    '236 formulas in D5:D240 changed: =B5 → =C5',
  ],
  [{ code: 'formulas-made', values: { at: 'D5', to: '=C5', count: 1 } }, 'D5 is worked out now: =C5'],
  [
    { code: 'formulas-made', values: { at: 'D5:D6', to: '=C5', count: 2 } },
    '2 values in D5:D6 are worked out now: =C5',
  ],
  [
    { code: 'value-changed', values: { at: 'D13', column: 'Mass (kg)', from: '400', to: '412' } },
    'D13, “Mass (kg)”: 400 → 412',
  ],
  [{ code: 'value-changed', values: { at: 'D13', column: '', from: 'empty', to: '412' } }, 'D13: empty → 412'],
  [
    { code: 'values-changed', values: { count: 1200, column: 'Mass', at: 'D5' } },
    '1,200 values changed in “Mass”, first in D5',
  ],
  [{ code: 'text-for-number', values: { at: 'D5', value: '28 ', count: 1 } }, 'D5 is text now, not a number: “28 ”'],
  [{ code: 'text-for-number', values: { at: 'D5', value: '28', count: 3 } }, '3 numbers are text now, first in D5'],
  [
    { code: 'head-changed', values: { column: 'D', from: 'Length (mm)', to: 'Length (m)' } },
    'Column D is called “Length (m)” now; it was “Length (mm)”',
  ],
  [{ code: 'rows-came', values: { verb: 'added', count: 1, at: '11', called: 'B4' } }, 'Row 11 added: “B4”'],
  [{ code: 'rows-came', values: { verb: 'removed', count: 3, at: '11–13', called: '' } }, '3 rows (11–13) removed'],
  [
    { code: 'columns-came', values: { verb: 'removed', count: 1, at: 'F', called: 'Mass' } },
    'Column F removed: “Mass”',
  ],
  [{ code: 'columns-came', values: { verb: 'added', count: 2, at: 'F–G', called: '' } }, '2 columns (F–G) added'],
  [{ code: 'rows-moved', values: { count: 1, from: '4', at: '20' } }, 'Row 4 moved to row 20'],
  [{ code: 'rows-moved', values: { count: 3, from: '4', at: '20' } }, '3 rows moved, the first from row 4 to row 20'],
  [{ code: 'column-moved', values: { column: 'Section', from: 'B', at: 'D' } }, 'Column “Section” moved from B to D'],
  [
    { code: 'rows-sorted', values: { column: 'Section', way: 'up', rows: 12 } },
    'Sorted by “Section”: 12 rows stand elsewhere',
  ],
  [
    { code: 'rows-sorted', values: { column: 'Mass', way: 'down', rows: 12 } },
    'Sorted by “Mass”, the largest first: 12 rows stand elsewhere',
  ],
  [{ code: 'rows-sorted', values: { column: '', way: 'none', rows: 12 } }, '12 rows put in another order'],
  [{ code: 'sheet-came', values: { name: 'Order', verb: 'added', rows: 3 } }, 'Sheet “Order” added, 3 rows'],
  [{ code: 'sheet-copied', values: { name: 'Order 2', of: 'Order' } }, 'Sheet “Order 2” added as a copy of “Order”'],
  [{ code: 'sheet-renamed', values: { from: 'Steel', to: 'Iron' } }, 'Sheet “Steel” is called “Iron” now'],
  [{ code: 'sheet-moved', values: { name: 'Order', at: 1 } }, 'Sheet “Order” stands in place 1 now'],
  [{ code: 'sheet-hidden', values: { name: 'Order', hidden: true } }, 'Sheet “Order” is hidden now'],
  [{ code: 'sheet-hidden', values: { name: 'Order', hidden: false } }, 'Sheet “Order” is shown now'],
  [{ code: 'lines-hidden', values: { what: 'row', at: '4–6', count: 3, hidden: true } }, '3 rows hidden: 4–6'],
  [{ code: 'lines-hidden', values: { what: 'column', at: 'D', count: 1, hidden: false } }, '1 column shown again: D'],
  [{ code: 'recalculated', values: { count: 2, from: 'F4, row 9' } }, '2 cells recalculated, because of F4, row 9'],
  [{ code: 'recalculated', values: { count: 1, from: '' } }, '1 cell recalculated'],
  [
    { code: 'cells-look', values: { count: 1, what: 'look', at: 'A3', from: 'none', to: 'bold' } },
    'Look of A3: none → bold',
  ],
  [
    { code: 'cells-look', values: { count: 9, what: 'format', at: 'A3', from: '0.0', to: '0.00' } },
    'Number format of 9 cells, first A3: 0.0 → 0.00',
  ],
  [{ code: 'cell-comments', values: { count: 1, at: 'A4', verb: 'added' } }, 'Comment in A4 added'],
  [{ code: 'cell-comments', values: { count: 2, at: 'A4', verb: 'changed' } }, '2 comments changed, first in A4'],
  [{ code: 'name-changed', values: { name: 'Waste', from: '', to: 'Steel!B1' } }, 'Name “Waste” added for Steel!B1'],
  [{ code: 'name-changed', values: { name: 'Waste', from: 'Steel!B1', to: '' } }, 'Name “Waste” removed'],
  [
    { code: 'name-changed', values: { name: 'Waste', from: 'Steel!B1', to: 'Steel!B2' } },
    'Name “Waste” stands for Steel!B2 now, not for Steel!B1',
  ],
  [{ code: 'merged-changed', values: { count: 1, verb: 'merged' } }, '1 range of cells merged'],
  [{ code: 'merged-changed', values: { count: 2, verb: 'parted' } }, '2 ranges of cells parted'],
];
