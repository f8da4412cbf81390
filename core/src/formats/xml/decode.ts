/** Finds the character encoding of an XML file (XML 1.0, appendix F) and gives text at byte offsets. */
import { ReadError } from '../../model/problem.ts';

export interface Decoded {
  /** The bytes that offsets refer to; UTF-16 input has been turned into UTF-8. */
  readonly bytes: Uint8Array;
  /** One character a byte, so that an index is a byte offset. Only its ASCII characters are meaningful. */
  readonly scan: string;
  /** The text between two byte offsets in the file's own encoding. */
  text(start: number, end: number): string;
  readonly transcoded: boolean;
}

export function decodeXml(input: Uint8Array): Decoded {
  let bytes = input;
  let transcoded = false;
  const utf16 = utf16Label(input);
  if (utf16) {
    bytes = new TextEncoder().encode(new TextDecoder(utf16).decode(input));
    transcoded = true;
  }
  // windows-1252 maps every byte to exactly one UTF-16 unit, and ASCII to itself.
  const scan = new TextDecoder('windows-1252').decode(bytes);
  const label = transcoded ? 'utf-8' : declaredEncoding(scan);
  const decoder = makeDecoder(label);
  const ascii = isAscii(bytes);
  return {
    bytes,
    scan,
    transcoded,
    text: (start, end) => {
      const raw = scan.slice(start, end);

      return ascii || /^[\x00-\x7f]*$/.test(raw) ? raw : decoder.decode(bytes.subarray(start, end));
    },
  };
}

function utf16Label(b: Uint8Array): string | undefined {
  if (b[0] === 0xff && b[1] === 0xfe) return 'utf-16le';
  if (b[0] === 0xfe && b[1] === 0xff) return 'utf-16be';
  if (b[0] === 0x3c && b[1] === 0) return 'utf-16le';
  if (b[0] === 0 && b[1] === 0x3c) return 'utf-16be';
  return undefined;
}

function declaredEncoding(scan: string): string {
  const head = /^(?:ï»¿)?\s*<\?xml[^>]{0,200}?encoding\s*=\s*["']([\w.-]+)["']/.exec(scan.slice(0, 300));
  return head?.[1] ?? 'utf-8';
}

function makeDecoder(label: string): TextDecoder {
  try {
    return new TextDecoder(label);
  } catch {
    throw new ReadError(
      `The file says that it is written in the character encoding “${label}”, which Ovrel does not know.`,
      0,
    );
  }
}

function isAscii(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length; i++) if ((bytes[i] as number) > 0x7f) return false;
  return true;
}
