/** When a DXF drawing was saved, and by whom: variables of its header. */
import type { Written } from '../../model/written.ts';
import { endsOf, written } from '../shared/written.ts';

/** Days from the beginning of the Julian period to 1970. */
const JULIAN_1970 = 2_440_587.5;
const DAY = 86_400_000;

const variable = (text: string, name: string, code: number): string | undefined =>
  new RegExp(`\\$${name}\\s*\\r?\\n\\s*${code}\\s*\\r?\\n([^\\r\\n]*)`).exec(text)?.[1]?.trim();

/** The universal time where it is said, else that of the place, which is taken for it. */
export function writtenInDxf(bytes: Uint8Array): Written {
  const text = endsOf(bytes);
  const days = Number(variable(text, 'TDUUPDATE', 40) ?? variable(text, 'TDUPDATE', 40));
  return written((days - JULIAN_1970) * DAY, variable(text, 'LASTSAVEDBY', 1));
}
