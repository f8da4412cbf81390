/** The comparison that always works. */
import type { Change } from '../contract/comparison.ts';

/** Index of the first byte that differs; −1 for equal contents. */
export function firstDifference(a: Uint8Array, b: Uint8Array): number {
  const shorter = Math.min(a.length, b.length);
  for (let i = 0; i < shorter; i++) if (a[i] !== b[i]) return i;
  return a.length === b.length ? -1 : shorter;
}

export function compareBytes(a: Uint8Array, b: Uint8Array, name: string): { changes: Change[]; unchanged: number } {
  const offset = firstDifference(a, b);
  if (offset < 0) return { changes: [], unchanged: 1 };
  const part = { key: null, kind: 'file', name, category: '', page: '' };
  const byteAt = (bytes: Uint8Array): string => {
    const value = bytes[offset];
    return value === undefined ? 'end of file' : `byte ${value.toString(16).padStart(2, '0')}`;
  };
  const size = (bytes: Uint8Array): string => `${bytes.length.toLocaleString('en')} bytes`;
  const what: Change['what'] = [];
  if (a.length !== b.length) what.push({ aspect: 'size', from: size(a), to: size(b) });
  what.push({ aspect: 'content', property: `first difference at offset ${offset.toLocaleString('en')}`, from: byteAt(a), to: byteAt(b) });
  return { changes: [{ id: 'c1', kind: 'changed', part, partA: part, partB: part, what, boxA: null, boxB: null }], unchanged: 0 };
}
