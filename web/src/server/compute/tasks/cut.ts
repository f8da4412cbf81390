import { cutBytes, type Cut } from '../../store/cutting.ts';
import { WithMemory, type Task } from '../task.ts';

/** The memory of the bytes goes back with the result instead of being copied. */
export const cut: Task<{ readonly bytes: Uint8Array; readonly last: boolean }, Cut> = ({ bytes, last }) =>
  new WithMemory(cutBytes(bytes, last), [bytes.buffer as ArrayBuffer]);
