/** Byte ranges (RFC 9110 §14). Only single ranges are served; others get the whole, as the standard allows. */
import { parse } from 'range-parser';

export interface ByteRange {
  readonly start: number;
  /** One past the last byte. */
  readonly end: number;
}

export function parseRange(header: string | undefined, size: number): ByteRange | 'unsatisfiable' | undefined {
  if (!header?.trim().toLowerCase().startsWith('bytes=')) return undefined;
  const { code, ranges } = parse(size, header.trim());
  if (code === 2 && ranges.length === 0) return 'unsatisfiable';
  const [range, another] = ranges;
  return code === 0 && range && !another ? { start: range.start, end: range.end + 1 } : undefined;
}
