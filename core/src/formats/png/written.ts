import type { Written } from '../../model/written.ts';
import { endsOf, written, writtenInPicture } from '../shared/written.ts';

/** The time of the last change of the picture (PNG, third edition, 11.3.5, tIME), or what all pictures may say. */
export function writtenInPng(bytes: Uint8Array): Written {
  const text = endsOf(bytes);
  const at = text.indexOf('\0\0\0\x07tIME') + 8;
  const said = writtenInPicture(bytes);
  if (at < 8 || at + 7 > text.length) return said;
  const byte = (k: number): number => text.codePointAt(at + k) ?? 0;
  const time = Date.UTC(256 * byte(0) + byte(1), byte(2) - 1, byte(3), byte(4), byte(5), byte(6));
  return { ...said, ...written(time, undefined) };
}
