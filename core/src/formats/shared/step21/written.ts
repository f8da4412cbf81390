import type { Written } from '../../../model/written.ts';
import { timeOf, written } from '../written.ts';
import { headerIn } from './scan.ts';

/** When and by whom a file in the clear text of ISO 10303-21 was written, as its header says. */
export function writtenInStep(bytes: Uint8Array): Written {
  const { written: at, authors } = headerIn(bytes);
  return written(timeOf(at || undefined), authors[0]);
}
