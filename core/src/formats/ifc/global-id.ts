/** Identities as building models have them: 128 bits in 22 letters (ISO 16739-1: IfcGloballyUniqueId). */
import { hashText } from '../../geometry/hash.ts';

const LETTERS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';
const COUNT = 22;
const BITS = 6n;

/** The same for the same words. */
export function createGlobalId(words: string): string {
  let left = BigInt(`0x${hashText(words)}${hashText(`${words}.`)}`);
  let id = '';
  for (let k = 0; k < COUNT; k++) {
    id = LETTERS.charAt(Number(left & ((1n << BITS) - 1n))) + id;
    left >>= BITS;
  }
  return id;
}
