import type { Card, Confidence } from '../../model/card.ts';

/** Bytes at a place from the start, as characters of one byte. */
export type Signature = readonly [offset: number, bytes: string];

const has = (head: Uint8Array, [offset, bytes]: Signature): boolean => {
  for (let i = 0; i < bytes.length; i++) if (head[offset + i] !== bytes.charCodeAt(i)) return false;
  return true;
};

/** Certain where all signatures of one of the lists are there. */
export const bySignature =
  (...lists: readonly (readonly Signature[])[]): Card['sniff'] =>
  (head): Confidence =>
    lists.some((list) => list.every((signature) => has(head, signature))) ? 'certain' : 'no';
