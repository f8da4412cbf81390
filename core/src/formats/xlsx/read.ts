/** Spreadsheets (ISO/IEC 29500-1, SpreadsheetML). Macros are never run. */
import { readXlsx } from 'hucre/xlsx';
import { latinOf } from '../../model/card.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Workbook } from '../../model/workbook.ts';
import { bookOf, readBook } from '../shared/hucre-book.ts';
import { LOCKED } from './card.ts';

/** Throws ReadError with a sentence. */
export async function readXlsxBook(bytes: Uint8Array, limits: Limits): Promise<Workbook> {
  if (latinOf(bytes.subarray(0, LOCKED.length)) === LOCKED)
    throw new ReadError(
      'The spreadsheet is locked with a password, or an older kind of file.',
      undefined,
      'unsupported',
    );
  return bookOf('xlsx', await readBook(bytes, limits, readXlsx), limits);
}
