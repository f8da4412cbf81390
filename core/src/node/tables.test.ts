/** Tables compared as people do it: files in, sentences out. */
import './index.ts';
import { writeOds } from 'hucre/ods';
import { writeXlsx } from 'hucre/xlsx';
import type { Cell, WriteSheet } from 'hucre';
import { steelStages, steelWorkbook } from '../../../demo/tables/steel.ts';
import { carryOver, compareFiles, joinFiles, open, takeBackChanges, type Content } from '../index.ts';
import type { Comparison } from '../contract/comparison.ts';
import { defaultLimits } from '../model/limits.ts';

async function compared(a: Content, b: Content): Promise<Comparison> {
  return (await compareFiles(a, b)).comparison;
}
const sentences = ({ causes }: Comparison): string[] => causes.map(({ sentence }) => sentence);

type Value = string | number | null;
const text = (rows: readonly (readonly Value[])[], sign = ','): Uint8Array =>
  new TextEncoder().encode(`${rows.map((row) => row.join(sign)).join('\n')}\n`);
const table = (rows: readonly (readonly Value[])[], name = 'a.csv'): Promise<Content> => open(text(rows), name);

describe('the workbook of the demo', () => {
  const stages = Array.from({ length: steelStages }, (_, k) => k);
  let books: Content[] = [];
  beforeAll(async () => {
    books = await Promise.all(stages.map(async (stage) => open(await steelWorkbook(stage), 'steel.xlsx')));
  });
  const step = (k: number): Promise<Comparison> => compared(books[k - 1] as Content, books[k] as Content);

  test('a row put in says so, and none of the formulas below it changed', async () => {
    expect(sentences(await step(1))).toEqual([
      'Row 13 added: “R1” on “Steel”',
      '1 cell recalculated, because of row 13 on “Steel”',
      '1 cell recalculated on “Order”',
    ]);
  });

  test('a column put in is one cause', async () => {
    expect(sentences(await step(2))).toEqual(['Column C added: “Coating” on “Steel”']);
  });

  test('what follows from an edited cell is recalculated, not edited', async () => {
    const { causes, changes } = await step(3);
    expect(causes.map(({ sentence }) => sentence)).toEqual([
      'B4, “Section”: UB 203 × 133 × 25 → UB 254 × 146 × 31 on “Steel”',
      'F4, “Weight (kg/m)”: 25.1 → 31.1 on “Steel”',
      '2 cells recalculated, because of F4 on “Steel”',
      '1 cell recalculated on “Order”',
    ]);
    expect(changes.map(({ part }) => part.name)).toEqual(['B4', 'F4', 'G4', 'G16', 'B2']);
  });

  test('a formula replaced by a number stands first, with what it gives', async () => {
    const [first, second] = sentences(await step(4));
    expect(first).toBe('Formula in G8 replaced by 412: it was =D8/1000*E8*F8*1.05, which gives 394.13 on “Steel”');
    expect(second).toBe('1 cell recalculated, because of G8 on “Steel”');
  });

  test('the formula that was replaced is told by the places that it would name now', async () => {
    const [first] = sentences(await compared(books[1] as Content, books[4] as Content));
    expect(first).toContain('Formula in G8 replaced by 412: it was =D8/1000*E8*F8*1.05, which gives 394.13');
  });

  test('sorting is one cause', async () => {
    const { causes, counts } = await step(5);
    expect(causes.map(({ sentence }) => sentence)).toEqual([
      expect.stringMatching(/^Sorted by “Section”: \d+ rows stand elsewhere on “Steel”$/),
    ]);
    expect(counts).toMatchObject({ added: 0, removed: 0, changed: 0 });
  });

  test('a formula that was changed alike all the way down is one cause', async () => {
    const [first, ...others] = sentences(await step(6));
    expect(first).toMatch(/^11 formulas in G4.*changed: =D4\/1000\*E4\*F4\*1.05 → =D4\/1000\*E4\*F4\*1.08 on “Steel”$/);
    expect(others).toContainEqual(expect.stringMatching(/^G\d+ is worked out now: =D\d+\/1000/));
  });

  test('a workbook is the same as itself', async () => {
    for (const book of books) expect(sentences(await compared(book, book))).toEqual([]);
  });
});

describe('a table of values', () => {
  const head = ['Mark', 'Section', 'Length', 'Mass'];
  const body = Array.from({ length: 40 }, (_, k): Value[] => [
    `B${((k * 7) % 40) + 1}`,
    k % 3 ? 'Oak' : 'Larch',
    1000 + 50 * ((k * 11) % 40),
    20 + k,
  ]);
  const rows = [head, ...body];
  const edit = (change: (rows: Value[][]) => Value[][]): Promise<Content> => table(change(rows.map((row) => [...row])));

  test.each<[string, (rows: Value[][]) => Value[][], string[]]>([
    ['a row removed', (all) => all.filter((_, k) => k !== 7), ['Row 8 removed: “B3”']],
    [
      'rows added',
      (all) => [...all.slice(0, 5), ['X1', 'Elm', 1, 2], ['X2', 'Elm', 1, 2], ...all.slice(5)],
      ['2 rows (6–7) added: “X1”'],
    ],
    [
      'rows in many places',
      (all) => all.flatMap((row, k) => (k > 0 && k % 5 === 0 ? [row, [`Z${k}`, 'Elm', k, 7]] : [row])),
      ['8 rows (7, 13, 19, 25, 31 …) added: “Z5”'],
    ],
    [
      'a row moved',
      (all) => [...all.slice(0, 3), ...all.slice(4, 20), all[3] as Value[], ...all.slice(20)],
      ['Row 4 moved to row 20'],
    ],
    ['a column removed', (all) => all.map((row) => row.filter((_, k) => k !== 2)), ['Column C removed: “Length”']],
    [
      'a column moved',
      (all) => all.map(([a, b, c, d]) => [a, c, d, b] as Value[]),
      ['Column “Section” moved from B to D'],
    ],
    [
      'one value',
      (all) => all.map((row, k) => (k === 9 ? [row[0], row[1], row[2], 777] : row) as Value[]),
      ['D10, “Mass”: 28 → 777'],
    ],
    [
      'a head',
      (all) => all.map((row, k) => (k ? row : ['Mark', 'Section', 'Length (m)', 'Mass'])),
      ['Column C is called “Length (m)” now; it was “Length”'],
    ],
    [
      'all of a column',
      (all) => all.map((row, k) => (k ? [row[0], row[1], row[2], Number(row[3]) * 2] : row) as Value[]),
      ['40 values changed in “Mass”, first in D2'],
    ],
    [
      'sorted',
      ([first, ...rest]) => [first as Value[], ...rest.sort((p, q) => Number(q[2]) - Number(p[2]))],
      [expect.stringMatching(/^Sorted by “Length”, the largest first: \d+ rows stand elsewhere$/)],
    ],
  ])('%s', async (_, change, wanted) => {
    expect(sentences(await compared(await table(rows), await edit(change)))).toEqual(wanted);
  });

  test('numbers that only count rows make no change of all that follow', async () => {
    const counted = (all: readonly (readonly Value[])[]): Value[][] =>
      all.map((row, k) => [k === 0 ? 'No' : k, ...row]);
    const more = [...rows.slice(0, 10), ['Y1', 'Elm', 1, 2], ...rows.slice(10)];
    const found = sentences(await compared(await table(counted(rows)), await table(counted(more))));
    expect(found).toEqual(['Row 11 added: “Y1”', '31 values changed in “No”, first in A12']);
  });

  test('one of two changes is taken back, a row is carried over, and what two did comes together', async () => {
    const two = (all: Value[][]): Value[][] =>
      all
        .filter((_, k) => k !== 7)
        .map((row, k) => (k === 20 ? [row[0] ?? '', row[1] ?? '', 4711, row[3] ?? ''] : row));
    const [a, b] = [await table(rows), await edit(two)];
    const found = await compareFiles(a, b);
    const changes = found.comparison.changes.flatMap(({ kind }, k) => (kind === 'changed' ? [k] : []));
    const back = await takeBackChanges(a, b, b, { compared: found, changes });
    const result = await open(back.bytes, 'a.csv');
    expect(sentences(await compared(a, result))).toEqual(['Row 8 removed: “B3”']);
    const carried = await carryOver(a, b, { parts: [7] });
    const whole = await open(carried.bytes, 'a.csv');
    expect(sentences(await compared(b, whole))).toEqual(['Row 8 added: “B3”']);
    const theirs = await edit((all) =>
      all.map((row, k) => (k === 30 ? [row[0] ?? '', 'Ash', row[2] ?? '', row[3] ?? ''] : row)),
    );
    const joined = await joinFiles(a, b, theirs);
    expect(joined.clashes).toEqual([]);
    expect(sentences(await compared(b, await open(joined.bytes, 'a.csv')))).toEqual(['B30, “Section”: Oak → Ash']);
  });

  test('the sign between values and the decimal sign are found out and said', async () => {
    const german = text(
      [
        ['Mark', 'Mass'],
        ['B1', '2,5'],
        ['B2', '3,75'],
      ],
      ';',
    );
    const opened = await open(german, 'a.csv');
    expect(opened.design?.notes).toEqual(['Its values are parted by semicolons; its decimal sign is a comma.']);
    expect(
      sentences(
        await compared(
          opened,
          await table([
            ['Mark', 'Mass'],
            ['B1', 2.5],
            ['B2', 3.75],
          ]),
        ),
      ),
    ).toEqual([]);
  });

  test('a quotation mark that is never closed is said, and the rows before it are read', async () => {
    const lines = [...Array.from({ length: 900 }, (_, k) => `B${k},${k}`), '"B900,900', 'B901,901'];
    const opened = await open(new TextEncoder().encode(`Mark,Mass\n${lines.join('\n')}`), 'a.csv');
    expect(opened.kinds[0]).toBe('table');
    expect(opened.design?.notes.join(' ')).toMatch(/quotation mark in row 902 is never closed/);
    expect(opened.design?.pages[0]?.box[3]).toBeGreaterThan(900);
  });
});

describe('a workbook', () => {
  const formula = (said: string, value: number): Partial<Cell> => ({
    value,
    type: 'formula',
    formula: said,
    formulaResult: value,
  });
  const sheet = (
    values: readonly number[],
    more: Partial<WriteSheet> = {},
    sum = `SUM(B2:B${values.length + 1})`,
  ): WriteSheet => ({
    name: 'Steel',
    rows: [['Mark', 'Mass'], ...values.map((value, k) => [`B${k}`, value]), ['Total', null]],
    cells: new Map([
      [
        `${values.length + 1},1`,
        formula(
          sum,
          values.reduce((p, q) => p + q, 0),
        ),
      ],
    ]),
    ...more,
  });
  const book = async (...sheets: readonly WriteSheet[]): Promise<Content> =>
    open(await writeXlsx({ sheets: [...sheets] }), 'a.xlsx');

  test('a sum that leaves out a row that was added beside its range is told', async () => {
    const a = await book(sheet([1, 2, 3, 4]));
    const b = await book(sheet([1, 2, 3, 4, 5], {}, 'SUM(B2:B5)'));
    expect(sentences(await compared(a, b))).toContain('=SUM(B2:B5) in B7 leaves out row 6, which was added beside it');
  });

  test('an error that came up stands before other things', async () => {
    const cells = new Map([
      ['5,1', { value: '#REF!', type: 'formula' as const, formula: 'SUM(#REF!)', formulaResult: '#REF!' }],
    ]);
    const b = await book(sheet([1, 2, 3, 9], { cells }));
    expect(sentences(await compared(await book(sheet([1, 2, 3, 4])), b))[0]).toBe('B6 is #REF! now');
  });

  test('sheets that are renamed, added, removed or hidden are said, and stay paired', async () => {
    const other: WriteSheet = {
      name: 'Notes',
      rows: [
        ['About', 'Words'],
        ['tide', 'low at noon'],
      ],
    };
    const a = await book(sheet([1, 2, 3, 4]), other);
    expect(sentences(await compared(a, await book(sheet([1, 2, 3, 4], { name: 'Iron' }), other)))).toEqual([
      'Sheet “Steel” is called “Iron” now',
    ]);
    expect(sentences(await compared(a, await book(sheet([1, 2, 3, 4]))))).toEqual(['Sheet “Notes” removed, 2 rows']);
    expect(sentences(await compared(a, await book(sheet([1, 2, 3, 4]), { ...other, hidden: true })))).toEqual([
      'Sheet “Notes” is hidden now',
    ]);
  });

  test('look, number format and comments are told apart from values', async () => {
    const a = await book(sheet([1, 2, 3, 4]));
    const cells = new Map<string, Partial<Cell>>([
      ['5,1', formula('SUM(B2:B5)', 10)],
      ['1,1', { style: { numFmt: '0.00' } }],
      ['2,0', { style: { font: { bold: true } } }],
      ['3,0', { comment: { text: 'ask Ines' } }],
    ]);
    expect(sentences(await compared(a, await book(sheet([1, 2, 3, 4], { cells }))))).toEqual([
      'Comment in A4 added',
      'Number format of B2: none → 0.00',
      'Look of A3: none → bold',
    ]);
  });

  test('an open spreadsheet says what the other one does', async () => {
    const made = sheet([1, 2, 3, 4]);
    const ods = await open(await writeOds({ sheets: [made] }), 'a.ods');
    expect(ods.card?.id).toBe('ods');
    expect(sentences(await compared(await book(made), ods))).toEqual([]);
    expect(sentences(await compared(ods, await book(sheet([1, 2, 3, 9]))))).toEqual([
      'B5, “Mass”: 4 → 9',
      '1 cell recalculated, because of B5',
    ]);
  });

  test('one that is locked is kept, and says so', async () => {
    const locked = await writeXlsx({ sheets: [sheet([1, 2])], encryption: { password: 'low tide', spinCount: 10 } });
    const { kinds, card, problem } = await open(locked, 'a.xlsx');
    expect([kinds[0], card?.id]).toEqual(['bytes', 'xlsx']);
    expect(problem?.sentence).toContain('is locked with a password');
  });

  test.each([
    ['that is cut off', (bytes: Uint8Array) => bytes.subarray(0, bytes.length / 2), 'damaged'],
    ['of more than may be', (bytes: Uint8Array) => bytes, 'too-large'],
  ])('one %s is kept and says why', async (_, change, code) => {
    const bytes = change(await writeXlsx({ sheets: [sheet([1, 2, 3, 4])] }));
    const { kinds, problem } = await open(
      bytes,
      'a.xlsx',
      code === 'too-large' ? { ...defaultLimits, cells: 3 } : defaultLimits,
    );
    expect([kinds[0], problem?.code]).toEqual(['bytes', code]);
  });
});
