import type { Splice } from '../../model/source.ts';

/** `bytes` with each splice in its place. */
export function spliced(bytes: Uint8Array, splices: readonly Splice[]): Uint8Array {
  const added = splices.reduce((sum, s) => sum + s.bytes.length - (s.end - s.start), 0);
  const out = new Uint8Array(bytes.length + added);
  let from = 0;
  let to = 0;
  for (const splice of splices) {
    if (splice.start < from) throw new Error('two changes of a file touch one another');
    out.set(bytes.subarray(from, splice.start), to);
    to += splice.start - from;
    out.set(splice.bytes, to);
    to += splice.bytes.length;
    from = splice.end;
  }
  out.set(bytes.subarray(from), to);
  return out;
}
