/** The comparison that always works. */
import type { ChangeDraft } from '../../causes/draft.ts';

/** Index of the first byte that differs; −1 for equal contents. */
export function firstDifference(a: Uint8Array, b: Uint8Array): number {
  const shorter = Math.min(a.length, b.length);
  for (let i = 0; i < shorter; i++) if (a[i] !== b[i]) return i;
  return a.length === b.length ? -1 : shorter;
}

export function compareBytes(a: Uint8Array, b: Uint8Array): { changes: ChangeDraft[]; unchanged: number } {
  const offset = firstDifference(a, b);
  return offset < 0
    ? { changes: [], unchanged: 1 }
    : { changes: [bytesChange(offset, a.length, b.length, a[offset], b[offset])], unchanged: 0 };
}

/** The one change between two contents of these lengths that first differ at `offset`, with the byte of each there. */
export function bytesChange(
  offset: number,
  lengthA: number,
  lengthB: number,
  byteA: number | undefined,
  byteB: number | undefined,
): ChangeDraft {
  const part = { key: null, kind: 'file', name: 'whole content', category: '', page: '' };
  const sayByte = (value: number | undefined): string =>
    value === undefined ? 'end of file' : `byte ${value.toString(16).padStart(2, '0')}`;
  const saySize = (n: number): string => `${n.toLocaleString('en')} bytes`;
  const what: ChangeDraft['what'] = [];
  if (lengthA !== lengthB) what.push({ aspect: 'size', from: saySize(lengthA), to: saySize(lengthB) });
  what.push({
    aspect: 'content',
    at: offset,
    property: `first difference at offset ${offset.toLocaleString('en')}`,
    from: sayByte(byteA),
    to: sayByte(byteB),
  });
  return { kind: 'changed', part, partA: part, partB: part, what, boxA: null, boxB: null, size: 0 };
}
