/** The workbook of the landing's steel, in seven versions; what its formulas give is worked out here. */
import { writeXlsx } from 'hucre/xlsx';
import type { Cell } from 'hucre';

export const steelStages = 7;

interface Piece {
  readonly mark: string;
  readonly section: string;
  readonly coating: string;
  readonly length: number;
  readonly count: number;
  /** Kilograms a metre. */
  readonly weight: number;
}

const piece = (mark: string, section: string, length: number, count: number, weight: number): Piece => ({
  mark,
  section,
  coating: mark.startsWith('P') || mark.startsWith('H') ? 'galvanised' : 'galvanised and painted',
  length,
  count,
  weight,
});

const first: readonly Piece[] = [
  piece('B1', 'UB 203 × 133 × 25', 6200, 4, 25.1),
  piece('B2', 'UB 152 × 89 × 16', 4100, 6, 16),
  piece('B3', 'UB 127 × 76 × 13', 2600, 12, 13),
  piece('C1', 'SHS 100 × 6.3', 2900, 8, 18.2),
  piece('C2', 'SHS 120 × 8', 3400, 4, 27.6),
  piece('D1', 'RSA 80 × 80 × 8', 1450, 16, 9.6),
  piece('H1', 'Hinge plate 25', 420, 2, 48.8),
  piece('P1', 'Base plate 300 × 20', 300, 8, 47.1),
  piece('P2', 'Splice plate 160 × 12', 240, 24, 15.1),
  piece('S1', 'Stringer PFC 200 × 75', 5200, 2, 23.4),
  piece('T1', 'Tread 240 × 6', 1100, 18, 11.3),
];
const rail = piece('R1', 'Handrail CHS 48.3 × 3.2', 9000, 4, 3.56);

const piecesOf = (stage: number): readonly Piece[] => {
  if (stage === 0) return first;
  const more = [...first.slice(0, 9), rail, ...first.slice(9)];
  const heavier =
    stage < 3 ? more : more.map((one) => (one.mark === 'B1' ? piece('B1', 'UB 254 × 146 × 31', 6200, 4, 31.1) : one));
  return stage < 5 ? heavier : [...heavier].sort((p, q) => p.section.localeCompare(q.section, 'en'));
};

/** Rows before the first piece, counted from 0: a title, a gap, the head. */
const ABOVE = 3;
/** Share that is bought in excess; the last version has more. */
const wasteOf = (stage: number): number => (stage >= 6 ? 1.08 : 1.05);

type Cells = Map<string, Partial<Cell>>;
const rounded = (value: number): number => Math.round(value * 100) / 100;

/** `stage` counts from 0. The same bytes each time. */
export async function steelWorkbook(stage: number): Promise<Uint8Array> {
  const pieces = piecesOf(stage);
  const hasCoating = stage >= 2;
  const heads = [
    'Mark',
    'Section',
    ...(hasCoating ? ['Coating'] : []),
    'Length (mm)',
    'Count',
    'Weight (kg/m)',
    'Mass (kg)',
  ];
  const [length, count, weight, mass] = ['D', 'E', 'F', 'G'].map((letter) =>
    hasCoating ? letter : String.fromCharCode(letter.charCodeAt(0) - 1),
  ) as [string, string, string, string];
  const cells: Cells = new Map();
  const massColumn = heads.length - 1;
  const masses = pieces.map(({ length: mm, count: n, weight: kg }, k) => {
    const row = ABOVE + k + 1;
    const value = rounded((mm / 1000) * n * kg * wasteOf(stage));
    const formula = `${length}${row}/1000*${count}${row}*${weight}${row}*${wasteOf(stage)}`;
    // In the fifth and sixth versions somebody typed a number over it.
    const isTyped = (stage === 4 || stage === 5) && pieces[k]?.mark === 'C2';
    cells.set(`${row - 1},${massColumn}`, isTyped ? typed(412) : worked(formula, value));
    return isTyped ? 412 : value;
  });
  const [top, bottom] = [ABOVE + 1, ABOVE + pieces.length];
  const total = rounded(masses.reduce((sum, value) => sum + value, 0));
  cells.set(`${bottom},${massColumn}`, worked(`SUM(${mass}${top}:${mass}${bottom})`, total, true));
  heads.forEach((_, column) => cells.set(`${ABOVE - 1},${column}`, { style: { font: { bold: true } } }));
  const rows = [
    ['Quillmere ferry landing: steel', ...Array<null>(massColumn).fill(null)],
    [],
    heads,
    ...pieces.map((one) => [
      one.mark,
      one.section,
      ...(hasCoating ? [one.coating] : []),
      one.length,
      one.count,
      one.weight,
      null,
    ]),
    ['Total'],
  ];
  return writeXlsx({
    properties: { created: new Date('2026-10-05T08:00:00Z'), modified: new Date('2026-10-05T08:00:00Z') },
    sheets: [
      {
        name: 'Steel',
        rows,
        cells,
        columns: heads.map((head) => ({ width: head === 'Section' || head === 'Coating' ? 26 : 13 })),
        freezePane: { rows: ABOVE },
      },
      {
        name: 'Order',
        rows: [
          ['What', 'Amount', 'Unit'],
          ['Steel in all', null, 't'],
          ['Lorries of 12 t', null, ''],
        ],
        cells: new Map<string, Partial<Cell>>([
          ['1,1', worked(`Steel!${mass}${bottom + 1}/1000`, rounded(total / 1000))],
          ['2,1', worked('ROUNDUP(B2/12,0)', Math.ceil(total / 12_000))],
        ]),
      },
    ],
  });
}

const worked = (formula: string, value: number, bold = false): Partial<Cell> => ({
  value,
  type: 'formula',
  formula,
  formulaResult: value,
  style: { numFmt: '#,##0.00', ...(bold ? { font: { bold } } : {}) },
});

const typed = (value: number): Partial<Cell> => ({ value, type: 'number', style: { numFmt: '#,##0.00' } });
