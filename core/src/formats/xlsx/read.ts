/** Spreadsheets (ISO/IEC 29500-1, SpreadsheetML). Macros are never run. */
import { unzipSync } from 'fflate';
import { readXlsx } from 'hucre/xlsx';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import type { Workbook } from '../../model/workbook.ts';
import { bookOf } from '../shared/hucre-book.ts';

/** A member may be so many times as large as it is packed. */
const MOST_GROWTH = 400;

/** Throws ReadError with a sentence. */
export async function readXlsxBook(bytes: Uint8Array, limits: Limits): Promise<Workbook> {
  refuseBombs(bytes, limits);
  return bookOf('xlsx', await readOr('spreadsheet', () => readXlsx(bytes, { readStyles: true })), limits);
}

/** What a library throws is said in a sentence. */
export async function readOr<T>(what: string, read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    const { name, message } = error as Error;
    if (name === 'EncryptedFileError')
      throw new ReadError(`The ${what} is locked with a password.`, undefined, 'locked');
    throw new ReadError(`The ${what} cannot be read: ${message.replace(/\.$/, '')}.`);
  }
}

/** Looks at what the container says of its members, before anything is unpacked. */
export function refuseBombs(bytes: Uint8Array, limits: Limits): void {
  let [packed, whole] = [0, 0];
  try {
    unzipSync(bytes, {
      filter: ({ size, originalSize }) => {
        packed += size;
        whole += originalSize;
        return false;
      },
    });
  } catch (error) {
    throw new ReadError(`The package cannot be opened: ${(error as Error).message}.`);
  }
  if (whole > limits.bytes || whole > 1e7 + MOST_GROWTH * packed)
    throw new ReadError('The package holds more than Ovrel looks into.', undefined, 'too-large');
}
