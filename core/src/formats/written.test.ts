/** What files say of themselves: each format as its programs write it, and nothing where nothing is said. */
import { deflateSync, strToU8, zipSync } from 'fflate';
import type { Written } from '../model/written.ts';
import { detect } from './registry.ts';

const writtenIn = async (bytes: Uint8Array, name: string): Promise<Written | undefined> =>
  (await detect(bytes, name)?.load())?.written?.(bytes);
const at = Date.UTC(2026, 8, 14, 9, 30, 15);

test('a DXF drawing says it in days of the Julian period', async () => {
  const days = at / 86_400_000 + 2_440_587.5;
  const header = [
    '0',
    'SECTION',
    '2',
    'HEADER',
    '9',
    '$TDUUPDATE',
    '40',
    days.toFixed(9),
    '9',
    '$LASTSAVEDBY',
    '1',
    'm.sands',
  ];
  const bytes = strToU8([...header, '0', 'ENDSEC', '0', 'EOF', ''].join('\r\n'));
  const said = await writtenIn(bytes, 'landing.dxf');
  expect(said?.by).toBe('m.sands');
  expect(Math.abs((said?.at ?? 0) - at)).toBeLessThan(1000);
});

test('a document says it with a zone; of two revisions the last counts', async () => {
  const text = `%PDF-1.7\n1 0 obj\n<</ModDate(D:20250101000000Z)/Author(Ines Falk)>>\nendobj\n2 0 obj\n<</ModDate (D:20260914113015+02'00')/Author (Tobias Renn)>>\nendobj\n`;
  expect(await writtenIn(strToU8(text), 'method.pdf')).toEqual({ at, by: 'Tobias Renn' });
});

test('a drawing and a picture say it in Extensible Metadata, with letters as they are', async () => {
  const xmp = `<metadata><rdf:RDF><rdf:Description xmp:ModifyDate="2026-09-14T11:30:15+02:00"><dc:creator><rdf:Seq><rdf:li>Zoë Ångström</rdf:li></rdf:Seq></dc:creator></rdf:Description></rdf:RDF></metadata>`;
  const svg = strToU8(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1">${xmp}</svg>`);
  expect(await writtenIn(svg, 'sign.svg')).toEqual({ at, by: 'Zoë Ångström' });
  const jpeg = Buffer.concat([
    Buffer.from([0xff, 0xd8, 0xff, 0xe1]),
    Buffer.from('Exif\0\x002026:09:14 09:30:15\0', 'latin1'),
  ]);
  expect(await writtenIn(jpeg, 'photo.jpg')).toEqual({ at });
});

test('PNG has a chunk for it', async () => {
  const chunk = (name: string, data: Uint8Array): Buffer =>
    Buffer.concat([Buffer.from([0, 0, 0, data.length]), Buffer.from(name), data, Buffer.alloc(4)]);
  const bytes = Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0])),
    chunk('tIME', Buffer.from([2026 >> 8, 2026 & 255, 9, 14, 9, 30, 15])),
    chunk('IDAT', deflateSync(new Uint8Array(2))),
  ]);
  expect(await writtenIn(bytes, 'sign.png')).toEqual({ at });
});

test('tables and texts say it in a member', async () => {
  const core = `<cp:coreProperties><cp:lastModifiedBy>Jory Pell</cp:lastModifiedBy><dcterms:modified xsi:type="dcterms:W3CDTF">2026-09-14T09:30:15Z</dcterms:modified></cp:coreProperties>`;
  const docx = zipSync({
    '[Content_Types].xml': strToU8('<Types/>'),
    'docProps/core.xml': strToU8(core),
    'word/document.xml': strToU8('<w/>'),
  });
  expect(await writtenIn(docx, 'method.docx')).toEqual({ at, by: 'Jory Pell' });
  const meta = `<office:meta><dc:creator>Jory Pell</dc:creator><dc:date>2026-09-14T09:30:15</dc:date></office:meta>`;
  const odt = zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
    'meta.xml': strToU8(meta),
  });
  expect(await writtenIn(odt, 'method.odt')).toEqual({ at, by: 'Jory Pell' });
});

test.each([
  ['landing.dxf', '0\nSECTION\n2\nHEADER\n9\n$TDUUPDATE\n40\nyesterday\n0\nENDSEC\n0\nEOF\n'],
  ['sign.svg', '<svg xmlns="http://www.w3.org/2000/svg"><metadata><dc:date>soon</dc:date></metadata></svg>'],
  ['method.pdf', '%PDF-1.4\n<</ModDate(D:2026)>>'],
])('%s that says nothing usable says nothing', async (name, text) => {
  expect(await writtenIn(strToU8(text), name)).toEqual({});
});
