/** When a document was changed last, and its author, where its information dictionary can be read as it is. */
import type { Written } from '../../model/written.ts';
import { endsOf, timeOf, written, writtenInXmp } from '../shared/written.ts';

/** A date of ISO 32000-1, 7.9.4. */
const DATE = /\/ModDate\s*\(D:(\d{4})(\d\d)(\d\d)(\d\d)(\d\d)(\d\d)?(?:Z|([+-]\d\d)'?(\d\d)?)?/g;

export function writtenInPdf(bytes: Uint8Array): Written {
  const text = endsOf(bytes);
  const last = [...text.matchAll(DATE)].at(-1);
  const author = [...text.matchAll(/\/Author\s*\(([^()\\]{1,120})\)/g)].at(-1)?.[1];
  const said = last ? written(momentOf(last), author?.startsWith('þÿ') ? undefined : author) : {};
  return { ...writtenInXmp(text), ...said };
}

function momentOf([
  ,
  year,
  month,
  day,
  hours,
  minutes,
  seconds = '00',
  zoneHours,
  zoneMinutes = '00',
]: RegExpExecArray): number | undefined {
  const zone = zoneHours === undefined ? 'Z' : `${zoneHours}:${zoneMinutes}`;
  return timeOf(`${year}-${month}-${day}T${hours}:${minutes}:${seconds}${zone}`);
}
