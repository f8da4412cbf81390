import { assemble } from '../../causes/assemble.ts';
import { cellNumber, plainSheet, workbookOf, type CellValue, type Sheet, type Workbook } from '../../model/workbook.ts';
import { compareTables } from './compare.ts';
import { mergedLines } from './merged.ts';
import { packTable, unpackTable } from './packed.ts';
import { pairTables } from './pairing.ts';

const rows: readonly (readonly CellValue[])[] = [
  ['Mark', 'Mass', 'Count'],
  ...Array.from({ length: 12 }, (_, k): CellValue[] => [`B${(7 * k) % 12}`, 10 + k, (5 * k) % 9]),
];
const steel = (more: Partial<Sheet> = {}): Sheet => ({ ...plainSheet('Steel', rows), ...more });
const notes = plainSheet('Notes', [
  ['About', 'Words'],
  ['tide', 'low at noon'],
]);
const book = (...sheets: readonly Sheet[]): Workbook => workbookOf('xlsx', sheets);
const sentences = (a: Workbook, b: Workbook): string[] =>
  assemble(compareTables(a, b)).causes.map(({ sentence }) => sentence);

test.each<[string, Workbook, Workbook, string[]]>([
  ['rows that are hidden', book(steel()), book(steel({ hiddenRows: new Set([3, 4, 8]) })), ['3 rows hidden: 4–5, 9']],
  [
    'a column that is shown again',
    book(steel({ hiddenColumns: new Set([1]) })),
    book(steel()),
    ['1 column shown again: B'],
  ],
  ['cells that became one', book(steel()), book(steel({ merged: ['0 0 0 1'] })), ['1 range of cells merged']],
  [
    'a sheet that was copied',
    book(steel()),
    book(steel(), steel({ name: 'Steel 2' })),
    ['Sheet “Steel 2” added as a copy of “Steel”'],
  ],
  ['a sheet put before another', book(steel(), notes), book(notes, steel()), ['Sheet “Steel” stands in place 2 now']],
  [
    'a number that became text',
    book(steel()),
    book(steel({ values: rows.map((row, k) => (k === 4 ? [row[0] ?? null, '13', row[2] ?? null] : row)) })),
    ['B5 is text now, not a number: “13”'],
  ],
  [
    'a name that stands for another cell',
    workbookOf('xlsx', [steel()], { names: new Map([['Waste', 'Steel!$B$2']]) }),
    workbookOf('xlsx', [steel()], { names: new Map([['Waste', 'Steel!$B$3']]) }),
    ['Name “Waste” stands for Steel!$B$3 now, not for Steel!$B$2'],
  ],
])('%s', (_, a, b, said) => {
  expect(sentences(a, b)).toEqual(said);
  expect(sentences(a, a)).toEqual([]);
});

test('a merged range that only moved down with its row is no change', () => {
  const a = book(steel({ merged: ['4 0 4 1'] }));
  const more = [...rows.slice(0, 2), ['NEW', 1, 2], ...rows.slice(2)];
  expect(sentences(a, book({ ...plainSheet('Steel', more), merged: ['5 0 5 1'] }))).toEqual(['Row 3 added: “NEW”']);
});

test('a formula that names another sheet follows its rows, and the sheet’s new name', () => {
  const order = (formula: string, value: number): Sheet => ({
    ...plainSheet('Order', [
      ['What', 'Amount'],
      ['first', value],
    ]),
    extras: new Map([[cellNumber(1, 1), { formula }]]),
  });
  const more = plainSheet('Iron', [...rows.slice(0, 2), ['NEW', 1, 2], ...rows.slice(2)]);
  expect(sentences(book(steel(), order('Steel!B3', 11)), book(more, order('Iron!B4', 11)))).toEqual([
    'Sheet “Steel” is called “Iron” now',
    'Row 3 added: “NEW” on “Iron”',
  ]);
});

/** The same numbers each time. */
function randomFrom(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

test('whatever was done, each cell that differs from the one that it is paired with is told, and no other', () => {
  for (let seed = 1; seed <= 60; seed++) {
    const random = randomFrom(seed);
    let values = Array.from({ length: 20 + random(40) }, (_, k): CellValue[] => [
      `M${(k * 37) % 101}`,
      random(5),
      random(1000),
      `word ${random(9)}`,
    ]);
    const a = book(plainSheet('S', values));
    for (let edit = 0; edit < 6; edit++) {
      const at = random(values.length);
      const edits: readonly (() => CellValue[][])[] = [
        () => values.filter((_, k) => k !== at),
        () => [...values.slice(0, at), [`N${random(99)}`, random(9), random(9), null], ...values.slice(at)],
        () => values.map((row, k) => (k === at ? row.with(random(row.length), random(1000)) : row)),
        () => values.map((row) => [...row.slice(1), row[0] ?? null]),
        () => [...values].sort((p, q) => Number(p[2]) - Number(q[2])),
        () => values.map((row) => row.slice(0, -1)),
      ];
      values = edits[random(edits.length)]?.() ?? values;
    }
    const b = book(plainSheet('S', values));
    const differing: string[] = [];
    for (const { rows: toRow, columns: toColumn } of pairTables(a, b).sheets)
      toRow.forEach((j, i) => {
        if (j >= 0)
          toColumn.forEach((d, c) => {
            const [from, to] = [a.sheets[0]?.values[i]?.[c] ?? null, b.sheets[0]?.values[j]?.[d] ?? null];
            if (d >= 0 && from !== to) differing.push(`${String(from)} → ${String(to)}`);
          });
      });
    const { changes } = compareTables(a, b);
    const told = changes.flatMap(({ part, what }) =>
      part.kind === 'cell'
        ? what.filter(({ aspect }) => aspect === 'value').map(({ from, to }) => `${from} → ${to}`)
        : [],
    );
    expect(told.sort()).toEqual(differing.map((said) => said.replaceAll('null', 'empty')).sort());
    // Every row of both is told of, or has its pair.
    const came = changes.filter(({ part }) => part.kind === 'row').map(({ kind }) => kind);
    const [pair] = pairTables(a, b).sheets;
    const paired = pair?.rows.filter((j) => j >= 0).length ?? 0;
    expect(came.filter((kind) => kind === 'removed')).toHaveLength((a.sheets[0]?.values.length ?? 0) - paired);
    expect(came.filter((kind) => kind === 'added')).toHaveLength(values.length - paired);
  }
});

test('what is gone stands where it stood, and what is shown is what was read', () => {
  expect(mergedLines([0, -1, 1], 3)).toEqual([
    { a: 0, b: 0 },
    { a: 1, b: undefined },
    { a: 2, b: 1 },
    { a: undefined, b: 2 },
  ]);
  const sheet = steel({ extras: new Map([[cellNumber(1, 1), { formula: 'A1' }]]), hiddenRows: new Set([2]) });
  const [again] = unpackTable(new TextDecoder().decode(packTable(book(sheet))));
  expect(again).toEqual(sheet);
});
