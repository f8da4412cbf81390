/** Byte ranges (RFC 9110 §14). Only single ranges are served; others get the whole, as the standard allows. */
export interface ByteRange {
  readonly start: number;
  /** One past the last byte. */
  readonly end: number;
}

export function parseRange(header: string | undefined, size: number): ByteRange | 'unsatisfiable' | undefined {
  const hit = /^bytes=(\d*)-(\d*)$/.exec(header?.trim() ?? '');
  if (!hit || (hit[1] === '' && hit[2] === '')) return undefined;
  if (hit[1] === '') {
    const length = Number(hit[2]);
    return length === 0 || size === 0 ? 'unsatisfiable' : { start: Math.max(0, size - length), end: size };
  }
  const start = Number(hit[1]);
  const last = hit[2] === '' ? size - 1 : Number(hit[2]);
  if (last < start && hit[2] !== '') return undefined;
  return start >= size ? 'unsatisfiable' : { start, end: Math.min(last + 1, size) };
}
