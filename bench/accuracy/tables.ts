/**
 * Known edits of tables: which cells, rows and columns are found to have changed, whether the first cause says what was
 * done, and whether a formula that became a number is always found, and never where there was none. Then a long table,
 * beside reading it and beside another program that compares tables by a key.
 */
import daff from 'daff';
import '../../core/src/node/index.ts';
import { compareFiles, open } from '../../core/src/index.ts';
import { assemble } from '../../core/src/causes/assemble.ts';
import { compareTables } from '../../core/src/kinds/table/compare.ts';
import {
  cellNumber,
  plainSheet,
  workbookOf,
  type CellExtra,
  type CellValue,
  type Workbook,
} from '../../core/src/model/workbook.ts';
import { line, ms, time } from '../measure.ts';

const SIZES = [50, 80, 120, 200, 400, 800, 2000, 5000, 20_000, 50_000] as const;
const HEADS = ['Mark', 'Section', 'Length', 'Count', 'Weight', 'Mass'];
const SECTIONS = ['UB 203', 'UB 152', 'SHS 100', 'PFC 200', 'RSA 80', 'CHS 48'];
const MASS = 5;

interface Row {
  readonly mark: string;
  readonly section: string;
  readonly length: number;
  readonly count: number;
  readonly weight: number;
  /** A number that stands where the formula was. */
  readonly typed?: number;
}

interface Table {
  readonly rows: readonly Row[];
  readonly without?: number;
  readonly factor: number;
  readonly sheet: string;
}

interface Edit {
  readonly name: string;
  readonly made: (
    table: Table,
    pick: (below: number) => number,
  ) => { readonly table: Table; readonly touched: readonly string[] };
  readonly says: RegExp;
}

function randomFrom(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

function tableOf(size: number, seed: number): Table {
  const random = randomFrom(seed);
  const rows = Array.from({ length: size }, (_, k): Row => ({
    mark: `M${(k * 7919) % 100_003}`,
    section: SECTIONS[random(SECTIONS.length)] ?? '',
    length: 500 + 10 * random(900),
    count: 1 + random(20),
    weight: 5 + random(400) / 10,
  }));
  return { rows, factor: 1, sheet: 'Steel' };
}

/** With formulas for the mass and for the sum of all. */
function workbook({ rows, without, factor, sheet }: Table): Workbook {
  const columns = [0, 1, 2, 3, 4, 5].filter((column) => column !== without);
  const letter = (column: number): string => String.fromCharCode(65 + columns.indexOf(column));
  const extras = new Map<number, CellExtra>();
  const values: CellValue[][] = [columns.map((column) => HEADS[column] ?? '')];
  let total = 0;
  rows.forEach(({ mark, section, length, count, weight, typed }, k) => {
    const mass = typed ?? (length / 1000) * count * weight * factor;
    total += mass;
    const all: CellValue[] = [mark, section, length, count, weight, mass];
    values.push(columns.map((column) => all[column] ?? null));
    const at = k + 2;
    const formula = `${letter(2)}${at}/1000*${letter(3)}${at}*${letter(4)}${at}*${factor}`;
    if (typed === undefined) extras.set(cellNumber(k + 1, columns.indexOf(MASS)), { formula });
  });
  const last = columns.indexOf(MASS);
  values.push([...Array<null>(last).fill(null), total]);
  extras.set(cellNumber(rows.length + 1, last), { formula: `SUM(${letter(MASS)}2:${letter(MASS)}${rows.length + 1})` });
  return workbookOf('xlsx', [{ ...plainSheet(sheet, values), extras }]);
}

const swapped = (rows: readonly Row[], at: number, change: (row: Row) => Row): Row[] =>
  rows.map((row, k) => (k === at ? change(row) : row));
const total = (rows: number): string => `F${rows + 2}`;

const edits: readonly Edit[] = [
  {
    name: 'a row put in',
    made: (table, pick) => {
      const at = 1 + pick(table.rows.length - 2);
      const rows = [
        ...table.rows.slice(0, at),
        { mark: 'NEW', section: 'UB 9', length: 777, count: 3, weight: 9 },
        ...table.rows.slice(at),
      ];
      return { table: { ...table, rows }, touched: [`row ${at + 2}`, total(rows.length)] };
    },
    says: /^Row \d+ added/,
  },
  {
    name: 'a row taken out',
    made: (table, pick) => {
      const at = 1 + pick(table.rows.length - 2);
      const rows = table.rows.filter((_, k) => k !== at);
      return { table: { ...table, rows }, touched: [`row ${at + 2}`, total(rows.length)] };
    },
    says: /^Row \d+ removed/,
  },
  {
    name: 'a value',
    made: (table, pick) => {
      const at = pick(table.rows.length);
      const rows = swapped(table.rows, at, (row) => ({ ...row, count: row.count + 50 }));
      return { table: { ...table, rows }, touched: [`D${at + 2}`, `F${at + 2}`, total(rows.length)] };
    },
    says: /^D\d+, “Count”/,
  },
  {
    name: 'a formula to a number',
    made: (table, pick) => {
      const at = pick(table.rows.length);
      const rows = swapped(table.rows, at, (row) => ({ ...row, typed: 12_345 }));
      return { table: { ...table, rows }, touched: [`F${at + 2}`, total(rows.length)] };
    },
    says: /^Formula in F\d+ replaced by 12345/,
  },
  {
    name: 'a formula filled down',
    made: (table) => ({
      table: { ...table, factor: 1.05 },
      touched: [...table.rows.map((_, k) => `F${k + 2}`), total(table.rows.length)],
    }),
    says: /^[\d,]+ formulas in F2/,
  },
  {
    name: 'a column taken out',
    made: (table) => ({ table: { ...table, without: 1 }, touched: ['column B'] }),
    says: /^Column B removed/,
  },
  {
    name: 'sorted',
    made: (table) => {
      const rows = [...table.rows].sort((p, q) => p.length - q.length || p.mark.localeCompare(q.mark));
      return { table: { ...table, rows }, touched: [] };
    },
    says: /^Sorted by “Length”/,
  },
  {
    name: 'a row moved',
    made: (table) => {
      const [first, second, ...rest] = table.rows as readonly [Row, Row, ...Row[]];
      const rows = [first, ...rest.slice(0, 30), second, ...rest.slice(30)];
      return { table: { ...table, rows }, touched: [] };
    },
    says: /^Row 3 moved to row 33/,
  },
  {
    name: 'a sheet renamed',
    made: (table) => ({ table: { ...table, sheet: 'Iron' }, touched: ['Iron'] }),
    says: /^Sheet “Steel” is called “Iron”/,
  },
  { name: 'nothing', made: (table) => ({ table, touched: [] }), says: /^$/ },
];

export async function benchTables(): Promise<void> {
  let [right, found, wanted, first, runs, constants, falseConstants] = [0, 0, 0, 0, 0, 0, 0];
  const missed = new Map<string, number>();
  SIZES.forEach((size, n) => {
    for (const [e, edit] of edits.entries())
      for (let round = 0; round < (size > 1000 ? 1 : 5); round++) {
        const table = tableOf(size, 1 + n);
        const { table: after, touched } = edit.made(table, randomFrom(97 * n + 13 * e + round));
        const { changes, causes } = assemble(compareTables(workbook(table), workbook(after)));
        const told = changes.filter(({ kind }) => kind !== 'moved').map(({ part }) => nameOf(part));
        const known = new Set(touched);
        right += told.filter((name) => known.has(name)).length;
        found += told.length;
        wanted += touched.length;
        const isConstant = causes.some(({ code }) => code === 'formula-to-constant');
        if (edit.name === 'a formula to a number') constants += isConstant ? 1 : 0;
        else if (isConstant) falseConstants++;
        runs++;
        if (edit.says.test(causes[0]?.sentence ?? '')) first++;
        else missed.set(edit.name, (missed.get(edit.name) ?? 0) + 1);
      }
  });
  const of = runs / edits.length;
  line(
    `tables: ${runs} known edits, cells, rows and columns: precision, recall`,
    `${(right / found).toFixed(4)}, ${(right / wanted).toFixed(4)}`,
    'goal ≥ 0.998',
  );
  line(
    'tables: the first cause says what was done',
    (first / runs).toFixed(3),
    `goal ≥ 0.95${missed.size > 0 ? `; missed: ${[...missed].map(([name, count]) => `${name} ${count}`).join(', ')}` : ''}`,
  );
  line(
    'tables: formula to number found; claimed where there was none',
    `${constants} of ${of}, ${falseConstants}`,
    'goal: all, 0',
  );
  await longTable();
}

/** “D13”, “row 4”, “column B”, or the name of a sheet. */
const nameOf = ({
  kind,
  name,
  key,
}: {
  readonly kind: string;
  readonly name: string;
  readonly key: string | null;
}): string => (kind === 'row' || kind === 'column' ? (key ?? '').replace(/^.*!/, '') : name);

const [LONG, WIDE] = [100_000, 20];

async function longTable(): Promise<void> {
  const random = randomFrom(5);
  const head = ['Key', ...Array.from({ length: WIDE - 1 }, (_, k) => `Value ${k + 1}`)];
  const body = Array.from({ length: LONG }, (_, k) => [
    `K${(k * 7919) % 1_000_003}`,
    ...Array.from({ length: WIDE - 1 }, () => random(100_000)),
  ]);
  const edited = body.map((row, k) => (k % 100 === 7 ? row.map((value, c) => (c === 4 ? 1_000_001 : value)) : row));
  for (let k = 0; k < 50; k++)
    edited.splice(1 + k * 1900, 0, [`NEW${k}`, ...Array.from({ length: WIDE - 1 }, () => random(100_000))]);
  const text = (rows: readonly (readonly CellValue[])[]): Uint8Array =>
    new TextEncoder().encode([head, ...rows].map((row) => row.join(',')).join('\n'));
  const [bytesA, bytesB] = [text(body), text(edited)];
  const start = performance.now();
  const [a, b] = [await open(bytesA, 'a.csv'), await open(bytesB, 'b.csv')];
  const reading = performance.now() - start;
  let sentences: string[] = [];
  const comparing = await time(async () => {
    const { comparison } = await compareFiles(a, b);
    sentences = comparison.causes.map(({ sentence }) => sentence);
  });
  const other = await time(() => byKey([head, ...body], [head, ...edited]));
  const size = `${LONG.toLocaleString('en')} rows × ${WIDE}, 1,000 cells edited, 50 rows put in`;
  line(
    `comparing two tables of ${size}`,
    ms(comparing),
    `${(comparing / reading).toFixed(2)} of reading both (goal ≤ 0.5); ${(comparing / other).toFixed(2)} of daff with a key (goal ≤ 1); ${sentences.length} causes`,
  );
}

/** The other program, told by which column rows are known. */
function byKey(a: CellValue[][], b: CellValue[][]): void {
  const [before, after] = [new daff.TableView(a), new daff.TableView(b)];
  const flags = new daff.CompareFlags();
  flags.addPrimaryKey('Key');
  const alignment = daff.compareTables(before, after, flags).align();
  const out = new daff.TableView([]);
  new daff.TableDiff(alignment, flags).hilite(out);
}
