import type { Reference } from '../../references/reference.ts';
import { decodeAny } from '../shared/plain-text.ts';

/** Locations of documents (ISO 16739: IfcExternalReference), texts as in ISO 10303-21. */
export function* referencesOfIfc(bytes: Uint8Array): Generator<Reference> {
  const text = decodeAny(bytes);
  for (const [, location = ''] of text.matchAll(
    /=\s*IFC(?:DOCUMENT|EXTERNAL|LIBRARY|CLASSIFICATION)?REFERENCE\s*\(\s*'((?:[^']|'')*)'/gi,
  ))
    yield { target: stepText(location), kind: 'document' };
  // IfcDocumentInformation of IFC4 has its location as the fifth attribute.
  for (const [, location = ''] of text.matchAll(
    /=\s*IFCDOCUMENTINFORMATION\s*\((?:\s*(?:'(?:[^']|'')*'|\$)\s*,){3}\s*(?:'(?:[^']|'')*'|\$|\([^)]*\))\s*,\s*'((?:[^']|'')*)'/gi,
  ))
    yield { target: stepText(location), kind: 'document' };
  for (const [, url = ''] of text.matchAll(
    /=\s*IFCIMAGETEXTURE\s*\([^']*(?:'(?:[^']|'')*'[^']*)*?'((?:[^']|'')*)'\s*\)/gi,
  ))
    yield { target: stepText(url), kind: 'texture' };
}

const stepText = (text: string): string =>
  text
    .replaceAll("''", "'")
    .replace(/\\X2\\((?:[0-9a-f]{4})+)\\X0\\/gi, (_, hex: string) =>
      String.fromCharCode(...(hex.match(/.{4}/g) ?? []).map((h) => parseInt(h, 16))),
    )
    .replace(/\\X\\([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replaceAll('\\\\', '\\');
