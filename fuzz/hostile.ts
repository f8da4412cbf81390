/** Files made to hurt whoever reads them, by scripts: small, and well formed as far as they must be. */

/** A document of numbered objects, the first of which is its catalogue. */
export function documentOf(objects: readonly string[]): Uint8Array {
  let text = '%PDF-1.7\n';
  const places: number[] = [];
  for (const [i, object] of objects.entries()) {
    places.push(text.length);
    text += `${i + 1} 0 obj${object}\nendobj\n`;
  }
  const rows = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  const size = objects.length + 1;
  const trailer = `trailer<</Size ${size}/Root 1 0 R>>\nstartxref\n${text.length}\n%%EOF`;
  return new TextEncoder().encode(`${text}xref\n0 ${size}\n0000000000 65535 f \n${rows}${trailer}`);
}

const onePage = (contents: string, more: readonly string[]): Uint8Array =>
  documentOf([
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Contents 4 0 R>>',
    `<</Length ${contents.length}>>stream\n${contents}\nendstream`,
    ...more,
  ]);

const form = (content: string): string =>
  `<</Type/XObject/Subtype/Form/BBox[0 0 200 200]/Resources<</XObject<</F 5 0 R>>>>/Length ${content.length}>>stream\n${content}\nendstream`;

/** A form that invokes itself, twice each time. */
export const selfInvokingDocument = (): Uint8Array => onePage('/F Do', [form('/F Do /F Do')]);

/** Lists of pages within one another, as deep as one likes, that come back to the first. */
export const circularDocument = (): Uint8Array =>
  documentOf(['<</Type/Catalog/Pages 2 0 R>>', '<</Type/Pages/Kids[2 0 R 2 0 R]/Count 1000000>>']);
