import { move, transferableSymbol, valueSymbol } from 'piscina';
import { cutBytes, type Cut } from '../../store/cutting.ts';
import type { Task } from '../task.ts';

/** The memory of the bytes goes back with the result instead of being copied. */
export const cut: Task<{ readonly bytes: Uint8Array; readonly last: boolean }, Cut> = ({ bytes, last }) => {
  const done = cutBytes(bytes, last);
  return move({ [transferableSymbol]: [bytes.buffer as ArrayBuffer], [valueSymbol]: done }) as never;
};
