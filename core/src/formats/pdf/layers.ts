/**
 * Layers of a PDF document (optional content, ISO 32000-2, 8.11): which there are, and which are hidden when it is
 * opened.
 */
import type { Layer } from '../../model/design.ts';

/** Longest object of a layer, in bytes. */
const LONGEST = 8000;

/**
 * Layers by name. The engine tells the layer of each object, but not the list; that is read from `text`, a copy that
 * it writes out plainly.
 */
export function layersOf(text: string): { readonly layers: Layer[]; readonly named: (given: string) => string } {
  const groups = new Map<string, string>();
  const given = new Map<string, string>();
  for (let from = 0, end = text.indexOf('endobj'); end >= 0; from = end + 6, end = text.indexOf('endobj', from)) {
    // The objects of layers are short; streams of pages are not.
    if (end - from > LONGEST) continue;
    const [, number = '', body = ''] = /(\d+) 0 obj\s*([\s\S]*)$/.exec(text.slice(from, end)) ?? [];
    const raw = /\/Type\s*\/OCG\b/.test(body) ? nameIn(body) : undefined;
    if (raw === undefined) continue;
    groups.set(number, decoded(raw));
    given.set(asGiven(raw), decoded(raw));
  }
  const properties = /\/OCProperties\s*(?:(\d+) 0 R|<<)/.exec(text);
  const from = properties?.[1]
    ? text.search(new RegExp(`(?:^|[\\r\\n])${properties[1]} 0 obj`))
    : (properties?.index ?? -1);
  const off = new Set(
    from < 0 ? [] : (/\/OFF\s*\[([^\]]*)\]/.exec(text.slice(from, from + 200_000))?.[1]?.match(/\d+(?= 0 R)/g) ?? []),
  );
  const layers = new Map<string, Layer>();
  // Of several of one name, one that is seen decides.
  for (const [number, name] of groups)
    if (!layers.has(name) || !off.has(number))
      layers.set(name, { name, key: undefined, props: { off: off.has(number) ? 'yes' : 'no' } });
  return {
    layers: [...layers.values()].sort((p, q) => p.name.localeCompare(q.name, 'en', { numeric: true })),
    named: (name) => given.get(asGiven(name)) ?? asGiven(name),
  };
}

/** The engine gives the bytes of a name as letters, and loses those beyond ASCII. */
const asGiven = (raw: string): string => raw.replace(/[^\x01-\x7f]/g, '');

/** The bytes of a text string (7.9.2.2), in brackets or in hexadecimal digits. */
function nameIn(body: string): string | undefined {
  const hex = /\/Name\s*<([\da-fA-F\s]*)>/.exec(body)?.[1];
  if (hex !== undefined)
    return (hex.replace(/\s/g, '').match(/../g) ?? []).map((h) => String.fromCharCode(parseInt(h, 16))).join('');
  const literal = /\/Name\s*\(((?:\\[\s\S]|[^\\)])*)\)/.exec(body)?.[1];
  return literal?.replace(/\\(\d{1,3}|[\s\S])/g, (_, c: string) =>
    /^\d/.test(c) ? String.fromCharCode(parseInt(c, 8) & 255) : ({ n: '\n', r: '\r', t: '\t' }[c] ?? c),
  );
}

function decoded(bytes: string): string {
  if (!bytes.startsWith('\xfe\xff')) return bytes;
  let out = '';
  for (let k = 2; k + 1 < bytes.length; k += 2)
    out += String.fromCharCode((bytes.charCodeAt(k) << 8) | bytes.charCodeAt(k + 1));
  return out;
}
