import { cellName, columnName, columnOf, rangeName } from './address.ts';
import { filledFormula, formulaInB, formulaMoved, plainFormula, plainOpenFormula, referencesIn } from './formula.ts';

test.each([
  [0, 'A'],
  [25, 'Z'],
  [26, 'AA'],
  [701, 'ZZ'],
  [702, 'AAA'],
  [16_383, 'XFD'],
])('column %i is %s', (column, name) => {
  expect(columnName(column)).toBe(name);
  expect(columnOf(name.toLowerCase())).toBe(column);
});

test('cells and ranges are called as people call them', () => {
  expect([cellName(12, 3), rangeName(3, 4, 4), rangeName(3, 4, 9)]).toEqual(['D13', 'D5', 'D5:D10']);
});

test.each([
  ['words in quotation marks', 'IF(A1="B2","C3",1)', 1],
  ['functions that look like places', 'LOG10(A1)+ATAN2(B1,C1)', 3],
  ['numbers with exponents', '1E5+2.5e-3*A1', 1],
  ['names that begin like places', 'A1B+AB12_x+XFD1048576', 1],
  ['other sheets, with and without marks', "Sheet2!A1+'Old ''one'''!B2:B9", 2],
  ['whole columns and rows', 'SUM(A:B)+SUM($3:4)', 2],
])('%s are told from places', (_, formula, count) => {
  expect(referencesIn(formula)).toHaveLength(count);
});

test('spelling is no difference, words in quotation marks are', () => {
  expect(plainFormula(' sum( a1:b2 ) ')).toBe(plainFormula('SUM(A1:B2)'));
  expect(plainFormula('"a b"')).not.toBe(plainFormula('"ab"'));
});

test('filled down it says the same, and fixed places do not move', () => {
  expect(filledFormula('B5*$C$1', 4, 3)).toBe(filledFormula('B9*$C$1', 8, 3));
  expect(filledFormula('B5*C1', 4, 3)).not.toBe(filledFormula('B9*C1', 8, 3));
  expect(formulaMoved('B5*$C$1+D$2', 4, 1)).toBe('C9*$C$1+E$2');
});

describe('what a formula says once rows and columns came and went', () => {
  /** Places of A in B. */
  const way = (rows: readonly number[], columns: readonly number[] = [0, 1, 2, 3]) => ({
    rows: Int32Array.from(rows),
    columns: Int32Array.from(columns),
  });
  const inB = (formula: string, to: ReturnType<typeof way>, ranges?: 'by all they hold'): string =>
    formulaInB(formula, (sheet) => (sheet === undefined ? { way: to, sheet } : undefined), ranges);
  /** A row was put in as the third. */
  const later = way([0, 1, 3, 4, 5]);

  test.each([
    ['A2*B3', later, 'A2*B4'],
    ['SUM(A1:A5)', later, 'SUM(A1:A6)'],
    ['A9', later, 'A10'],
    ['SUM(A2:A4)', way([0, -1, 1, 2, 3]), 'SUM(A2:A3)'],
    ['SUM(A2:A4)', way([0, 1, 2, -1, 3]), 'SUM(A2:A3)'],
    ['A2+1', way([0, -1, 1, 2, 3]), '#REF!+1'],
    ['$B$2', way([0, 1, 2], [0, 2, 3, 4]), '$C$2'],
    ['Other!A3', later, 'Other!A3'],
  ])('%s', (formula, to, said) => {
    expect(inB(formula, to)).toBe(said);
  });

  test('a range holds what it held where its rows were put in another order', () => {
    const sorted = way([0, 3, 1, 2, 4]);
    expect(inB('SUM(A2:A4)', sorted, 'by all they hold')).toBe('SUM(A2:A4)');
  });
});

test.each([
  ['of:=[.B2]*[.C2]', 'B2*C2'],
  ['of:=SUM([.F4:.F14];1)', 'SUM(F4:F14,1)'],
  ["of:=[$'Old one'.B2]+[Steel.$C$3]", "'Old one'!B2+Steel!$C$3"],
])('%s in the manner of the others', (open, plain) => {
  expect(plainOpenFormula(open)).toBe(plain);
});
