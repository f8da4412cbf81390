import { isPdf, isPng, isZip } from './members.ts';

const latin = (bytes: Uint8Array): string => {
  let out = '';
  for (const b of bytes) out += String.fromCharCode(b);
  return out;
};

/**
 * What is known of the program that wrote a container, for remembering its settings; rough, and never shown to people.
 */
export function writerOf(bytes: Uint8Array): string {
  const ends = latin(bytes.subarray(0, 32_768)) + latin(bytes.subarray(Math.max(32_768, bytes.length - 32_768)));
  const clip = (s: string | undefined): string => (s ?? '').replace(/[^ -~]/g, '').slice(0, 60);
  if (isPdf(bytes)) return `pdf ${clip(/\/Producer\s*\(([^)]*)/.exec(ends)?.[1])}`;
  if (isPng(bytes)) return `png ${clip(/tEXtSoftware\0([ -~]*)/.exec(ends)?.[1])}`;
  // The first member and the "version made by" of the directory tell office programs from one another.
  if (isZip(bytes))
    return `zip ${bytes[4] ?? 0}.${bytes[6] ?? 0} ${clip(ends.slice(30, 30 + (bytes[26] ?? 0)))} ${clip(/PK\x01\x02(..)/s.exec(ends)?.[1]?.replace(/./gs, (c) => String(c.charCodeAt(0))))}`;
  return '';
}
