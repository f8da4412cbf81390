/** When a file was written and by whom, as it says itself in one of the ways that many formats share. */
import { strFromU8, unzipSync } from 'fflate';
import type { Written } from '../../model/written.ts';

/** What stands at the ends of a file is looked through, not all of it, in bytes. */
const AT_THE_ENDS = 256 * 1024;
/** Members of a container larger than this are not looked into, in bytes. */
const LARGEST_MEMBER = 1024 * 1024;
const LONGEST_NAME = 120;

/** The beginning and the end of a file as text, a letter a byte: that is enough for what is looked for. */
export function endsOf(bytes: Uint8Array): string {
  const text = (part: Uint8Array): string => strFromU8(part, true);
  if (bytes.length <= 2 * AT_THE_ENDS) return text(bytes);
  return `${text(bytes.subarray(0, AT_THE_ENDS))}\n${text(bytes.subarray(-AT_THE_ENDS))}`;
}

/** Empty where a value is none. `at` in milliseconds since 1970; what is before 1970 or no time is left out. */
export function written(at: number | undefined, by: string | undefined): Written {
  const name = by?.replaceAll(/\s+/g, ' ').trim().slice(0, LONGEST_NAME);
  return {
    ...(at !== undefined && Number.isFinite(at) && at > 0 ? { at } : {}),
    ...(name ? { by: name } : {}),
  };
}

/** Of a time as ISO 8601 has it; without a zone it is taken for Coordinated Universal Time. */
export function timeOf(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const hasZone = /(?:Z|[+-]\d\d:?\d\d)$/i.test(text);
  const time = Date.parse(!hasZone && text.includes('T') ? `${text}Z` : text);
  return Number.isNaN(time) ? undefined : time;
}

const inner = (text: string, element: string): string | undefined =>
  new RegExp(`<${element}(?:\\s[^>]*)?>\\s*([^<]+?)\\s*</${element}>`).exec(text)?.[1];

/** Of Extensible Metadata (ISO 16684-1), which stands as plain text in files of many formats. */
export function writtenInXmp(text: string): Written {
  const changed =
    inner(text, 'xmp:ModifyDate') ?? /xmp:ModifyDate\s*=\s*["']([^"']+)["']/.exec(text)?.[1] ?? inner(text, 'dc:date');
  const creator = /<dc:creator(?:\s[^>]*)?>([\s\S]{0,600}?)<\/dc:creator>/.exec(text)?.[1];
  const by =
    creator && (inner(creator, 'rdf:li') ?? inner(creator, 'dc:title') ?? /^\s*([^<]+?)\s*$/.exec(creator)?.[1]);
  return written(timeOf(changed), by === undefined ? undefined : utf8(by));
}

/** Letters that were taken for bytes. */
function utf8(text: string): string {
  return new TextDecoder().decode(Uint8Array.from(text, (letter) => letter.codePointAt(0) as number));
}

/** Of pictures: Extensible Metadata, or the time of change as Exif writes it (CIPA DC-008, tag 306). */
export function writtenInPicture(bytes: Uint8Array): Written {
  const text = endsOf(bytes);
  const said = writtenInXmp(text);
  const [, year, month, day, time] = /(\d{4}):(\d\d):(\d\d) (\d\d:\d\d:\d\d)\0/.exec(text) ?? [];
  return time === undefined ? said : { ...written(timeOf(`${year}-${month}-${day}T${time}Z`), undefined), ...said };
}

/** Of a container with a member that tells of it. */
export function writtenInMember(
  bytes: Uint8Array,
  member: string,
  elements: { readonly at: string; readonly by: string },
): Written {
  const members = unzipSync(bytes, {
    filter: ({ name, originalSize }) => name === member && originalSize <= LARGEST_MEMBER,
  });
  const content = members[member];
  if (!content) return {};
  const text = strFromU8(content);
  return written(timeOf(inner(text, elements.at)), inner(text, elements.by));
}
