/** Spreadsheets of OpenDocument (ISO/IEC 26300, part 3). */
import { readOds } from 'hucre/ods';
import type { Limits } from '../../model/limits.ts';
import type { Workbook } from '../../model/workbook.ts';
import { bookOf, readBook } from '../shared/hucre-book.ts';
import { plainOpenFormula } from '../../text/formula.ts';

/** Throws ReadError with a sentence. */
export async function readOdsBook(bytes: Uint8Array, limits: Limits): Promise<Workbook> {
  const read = await readBook(bytes, limits, readOds);
  for (const { cells } of read.sheets)
    for (const cell of cells?.values() ?? [])
      if (cell.formula !== undefined) cell.formula = plainOpenFormula(cell.formula);
  return bookOf('ods', read, limits);
}
