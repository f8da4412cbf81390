/** Finds references in the bytes of a file. Tolerant: what cannot be read has none; never throws. */
import { isBinary, sizeOfValue } from '../formats/dxf/groups.ts';
import { strFromU8, unzipSync } from 'fflate';
import { extensionOf } from '../formats/registry.ts';
import type { Reference, ReferenceKind } from './reference.ts';

/** More than these are not listed. */
export const MOST_REFERENCES = 5000;
/** Members of a container larger than this are not looked into, in bytes. */
const LARGEST_MEMBER = 16 * 1024 * 1024;

type Finder = (bytes: Uint8Array) => Iterable<Reference>;

const finders: Readonly<Record<string, Finder>> = {
  svg: inMarkup,
  html: inMarkup,
  htm: inMarkup,
  xhtml: inMarkup,
  md: inMarkdown,
  markdown: inMarkdown,
  dxf: inDxf,
  obj: inObj,
  mtl: inMtl,
  gltf: (bytes) => inGltf(decode(bytes)),
  glb: inGlb,
  ifc: inIfc,
  xlsx: inOffice,
  xlsm: inOffice,
  docx: inOffice,
  docm: inOffice,
  pptx: inOffice,
  pptm: inOffice,
  odt: inOdf,
  ods: inOdf,
  odp: inOdf,
  odg: inOdf,
};

/** The other files that this one needs, each named once; `name` says by its ending what it is. Source of each format's rules: its published specification. */
export function referencesOf(bytes: Uint8Array, name: string): Reference[] {
  const seen = new Map<string, Reference>();
  try {
    for (const reference of finders[extensionOf(name)]?.(bytes) ?? []) {
      const target = reference.target.trim();
      if (!target || target.startsWith('#') || /^(?:data|blob|javascript|mailto|urn):/i.test(target)) continue;
      if (!seen.has(target)) seen.set(target, { ...reference, target });
      if (seen.size >= MOST_REFERENCES) break;
    }
  } catch {
    // A file that cannot be read is still kept; it says so elsewhere.
  }
  return [...seen.values()];
}

function decode(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const plain = (text: string): string =>
  text.replace(/&(?:#x([0-9a-f]+)|#(\d+)|(\w+));/gi, (whole, hex?: string, dec?: string, name?: string) => {
    const code = hex ? parseInt(hex, 16) : dec ? Number(dec) : NaN;
    if (Number.isFinite(code)) return code <= 0x10ffff ? String.fromCodePoint(code) : whole;
    return entities[name ?? ''] ?? whole;
  });

/** Which attributes of which elements name a file (SVG 2, HTML). */
const markupKinds: Readonly<Record<string, ReferenceKind>> = {
  image: 'picture',
  img: 'picture',
  feimage: 'picture',
  source: 'picture',
  use: 'drawing',
  object: 'drawing',
  embed: 'drawing',
  link: 'style',
  'xml-stylesheet': 'style',
};

function* inMarkup(bytes: Uint8Array): Generator<Reference> {
  const text = decode(bytes).replace(/<!--[^]*?-->/g, '');
  for (const [, name = '', inside = ''] of text.matchAll(
    /<[?]?([a-z][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*[/?]?>/gi,
  )) {
    const element = name.slice(name.lastIndexOf(':') + 1).toLowerCase();
    const kind = markupKinds[element];
    const rel = /\brel\s*=\s*["']?stylesheet/i.test(inside);
    for (const [, attribute = '', double, single] of inside.matchAll(/([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
      const value = plain(double ?? single ?? '');
      if (/^style$/i.test(attribute)) yield* inCss(value);
      if (!kind || (element === 'link' && !rel)) continue;
      if (/^srcset$/i.test(attribute))
        for (const part of value.split(',')) yield { target: part.trim().split(/\s+/)[0] ?? '', kind };
      else if (/^(?:(?:xlink:)?href|src|data)$/i.test(attribute)) yield { target: value, kind };
    }
  }
  for (const [, css = ''] of text.matchAll(/<style\b[^>]*>([^]*?)<\/style>/gi))
    yield* inCss(css.replace(/<!\[CDATA\[|\]\]>/g, ''));
}

function* inCss(css: string): Generator<Reference> {
  const text = css.replace(/\/\*[^]*?\*\//g, '');
  for (const [, rule, double, single, bare] of text.matchAll(
    /(@import\s+)?(?:url\(\s*)?(?:"([^"\n]*)"|'([^'\n]*)'|(?<=url\(\s*)([^"')\s]+))\s*\)?/gi,
  )) {
    if (rule || bare !== undefined) yield { target: double ?? single ?? bare ?? '', kind: rule ? 'style' : 'picture' };
  }
  for (const [, double, single] of text.matchAll(/url\(\s*(?:"([^"\n]*)"|'([^'\n]*)')\s*\)/gi))
    yield { target: double ?? single ?? '', kind: 'picture' };
}

/** Pictures only (CommonMark 6.4), and HTML within. */
function* inMarkdown(bytes: Uint8Array): Generator<Reference> {
  const text = decode(bytes)
    .replace(/^(```|~~~)[^]*?^\1/gm, '')
    .replace(/`[^`\n]*`/g, '');
  const labels = new Map(
    [...text.matchAll(/^ {0,3}\[([^\]\n]+)\]:\s*(?:<([^>\n]*)>|(\S+))/gm)].map(([, label = '', angled, bare]) => [
      label.trim().toLowerCase(),
      angled ?? bare ?? '',
    ]),
  );
  for (const [, alt = '', angled, bare, label] of text.matchAll(
    /!\[([^\]\n]*)\](?:\(\s*(?:<([^>\n]*)>|([^\s)]+))[^)\n]*\)|\[([^\]\n]*)\])?/g,
  )) {
    const target = angled ?? bare ?? labels.get(((label ?? '') || alt).trim().toLowerCase());
    if (target) yield { target, kind: 'picture' };
  }
  yield* inMarkup(new TextEncoder().encode(text));
}

/** External references, pictures and underlays (DXF reference: BLOCK, IMAGEDEF, *DEFINITION). Group codes and values in turn, a line each. */
function* inDxf(bytes: Uint8Array): Generator<Reference> {
  let entity = '';
  let flags = 0;
  let path = '';
  for (const [code, value] of isBinary(bytes) ? binaryPairs(bytes) : textPairs(bytes)) {
    if (code === 0) {
      // Bit 4 of a block's flags: it stands for another drawing; bit 8: that one is only laid over.
      if (entity === 'BLOCK' && flags & 12 && path) yield { target: path, kind: 'drawing' };
      [entity, flags, path] = [value.toUpperCase(), 0, ''];
    } else if (code === 70 && entity === 'BLOCK') flags = Number(value);
    else if (code === 1) {
      if (entity === 'BLOCK') path = value;
      else if (entity === 'IMAGEDEF') yield { target: value, kind: 'picture' };
      else if (/^(?:PDF|DWF|DGN)DEFINITION$/.test(entity)) yield { target: value, kind: 'document' };
    }
  }
}

function* textPairs(bytes: Uint8Array): Generator<[number, string]> {
  const lines = decode(bytes).split(/\r\n|\r|\n/);
  for (let i = 0; i + 1 < lines.length; i += 2) yield [Number(lines[i]), (lines[i + 1] ?? '').trim()];
}

/** Pairs of a binary drawing; texts and 16-bit numbers as they are, others empty. Codes take two bytes, in the oldest files one. */
function* binaryPairs(bytes: Uint8Array): Generator<[number, string]> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const wide = bytes[23] === 0;
  for (let at = 22; at + 1 < bytes.length;) {
    let code = wide ? view.getUint16(at, true) : (bytes[at] ?? 0);
    at += wide ? 2 : 1;
    if (!wide && code === 255) {
      code = view.getUint16(at, true);
      at += 2;
    }
    const size = sizeOfValue(code);
    if (size === 'text') {
      const end = bytes.indexOf(0, at);
      if (end < 0) return;
      yield [code, decode(bytes.subarray(at, end)).trim()];
      at = end + 1;
    } else if (size === 'chunk') at += 1 + (bytes[at] ?? 0);
    else {
      yield [code, size === 2 && at + 2 <= bytes.length ? String(view.getInt16(at, true)) : ''];
      at += size;
    }
  }
}

/** Pictures, objects and sections that lie outside of the package (OpenDocument 1.3, part 2, 4.10: paths that lead out of it begin with "../"). */
function* inOdf(bytes: Uint8Array): Generator<Reference> {
  const members = unzipSync(bytes, {
    filter: (m) => (m.name === 'content.xml' || m.name === 'styles.xml') && m.originalSize <= LARGEST_MEMBER,
  });
  for (const content of Object.values(members)) {
    for (const [, element = '', inside = ''] of strFromU8(content).matchAll(
      /<(draw:image|draw:object|draw:plugin|text:section-source|table:table-source|style:background-image|draw:fill-image)\b([^>]*)>/g,
    )) {
      const href = plain(/\bxlink:href\s*=\s*"([^"]*)"/.exec(inside)?.[1] ?? '');
      // Without "../" it lies inside; an absolute address lies outside.
      if (!/^(?:\.\.\/|[a-z][a-z0-9+.-]*:)/i.test(href)) continue;
      yield {
        target: href.replace(/^\.\.\//, ''),
        kind: /image/.test(element) ? 'picture' : element === 'table:table-source' ? 'table' : 'document',
      };
    }
  }
}

function* inObj(bytes: Uint8Array): Generator<Reference> {
  for (const [, names = ''] of decode(bytes).matchAll(/^\s*mtllib\s+(.+)$/gim)) {
    // Names may have blanks in them, or several names may stand in one line.
    for (const name of names.trim().split(/(?<=\.mtl)\s+/i)) yield { target: name, kind: 'material' };
  }
}

/** Options of texture lines, and how many values follow each. */
const mtlOptions: Readonly<Record<string, number>> = {
  '-blendu': 1,
  '-blendv': 1,
  '-bm': 1,
  '-boost': 1,
  '-cc': 1,
  '-clamp': 1,
  '-imfchan': 1,
  '-mm': 2,
  '-texres': 1,
  '-type': 1,
  '-o': 3,
  '-s': 3,
  '-t': 3,
};

function* inMtl(bytes: Uint8Array): Generator<Reference> {
  for (const [, rest = ''] of decode(bytes).matchAll(/^\s*(?:map_\w+|bump|disp|decal|refl|norm)\s+(.+)$/gim)) {
    let words = rest.trim().split(/\s+/);
    for (let option = words[0] ?? ''; option in mtlOptions; option = words[0] ?? '') {
      const most = mtlOptions[option.toLowerCase()] ?? 0;
      let taken = 1;
      while (taken <= most && ((taken === 1 && most === 1) || /^-?[\d.]+$/.test(words[taken] ?? ''))) taken++;
      words = words.slice(taken);
    }
    yield { target: words.join(' '), kind: 'texture' };
  }
}

function* inGltf(text: string): Generator<Reference> {
  const { buffers = [], images = [] } = JSON.parse(text) as {
    buffers?: { uri?: unknown }[];
    images?: { uri?: unknown }[];
  };
  for (const { uri } of buffers) if (typeof uri === 'string') yield { target: uri, kind: 'data' };
  for (const { uri } of images) if (typeof uri === 'string') yield { target: uri, kind: 'texture' };
}

/** The JSON chunk stands first (glTF 2.0, 4.4). */
function* inGlb(bytes: Uint8Array): Generator<Reference> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== 0x46546c67 || view.getUint32(16, true) !== 0x4e4f534a) return;
  yield* inGltf(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))));
}

/** Locations of documents (ISO 16739: IfcExternalReference), texts as in ISO 10303-21. */
function* inIfc(bytes: Uint8Array): Generator<Reference> {
  const text = decode(bytes);
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

/** Linked workbooks, documents and pictures (ISO/IEC 29500-2: relationships with an external target). */
function* inOffice(bytes: Uint8Array): Generator<Reference> {
  const members = unzipSync(bytes, {
    filter: (m) => /(?:^|\/)_rels\/[^/]+\.rels$/.test(m.name) && m.originalSize <= LARGEST_MEMBER,
  });
  for (const [name, content] of Object.entries(members)) {
    for (const [, inside = ''] of strFromU8(content).matchAll(/<Relationship\b([^>]*)>/g)) {
      const value = (attribute: string): string =>
        plain(new RegExp(`\\b${attribute}\\s*=\\s*["']([^"']*)["']`).exec(inside)?.[1] ?? '');
      if (value('TargetMode') !== 'External' || /hyperlink$/.test(value('Type'))) continue;
      yield {
        target: value('Target'),
        kind: name.includes('externalLinks') ? 'table' : /image$/.test(value('Type')) ? 'picture' : 'document',
      };
    }
  }
}
