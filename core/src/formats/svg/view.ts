/** For showing a drawing as a picture: its root tag with a size in pixels that browsers cannot misread. */
import type { Box } from '../../geometry/box.ts';
import { defaultLimits } from '../../model/limits.ts';
import { parseXml } from '../xml/parse.ts';
import { SVG_NAMESPACE } from './namespace.ts';

/** Length of the longer side of the picture, in pixels. */
const LONGER_SIDE = 1024;

/**
 * The bytes to replace (start, end) and the tag to put there; undefined where bytes were transcoded and have no place
 * in the file.
 */
export function viewTag(bytes: Uint8Array, page: Box): { start: number; end: number; tag: string } | undefined {
  const { root, decoded } = parseXml(bytes, defaultLimits, SVG_NAMESPACE);
  if (decoded.transcoded) return undefined;
  const w = page[2] - page[0];
  const h = page[3] - page[1];
  const scale = LONGER_SIDE / Math.max(w, h);
  const raw = decoded.text(root.start, root.openEnd);
  const kept = raw.replace(/\s(?:width|height|viewBox|preserveAspectRatio)\s*=\s*(?:"[^"]*"|'[^']*')/g, '');
  const xmlns = /\sxmlns\s*=/.test(kept) || /^<[\w-]+:/.test(kept) ? '' : ` xmlns="${SVG_NAMESPACE}"`;
  const size = `${xmlns} width="${w * scale}" height="${h * scale}" viewBox="${page[0]} ${page[1]} ${w} ${h}"`;
  return { start: root.start, end: root.openEnd, tag: kept.replace(/\s*(\/?)>$/, `${size}$1>`) };
}

/** The root tag is looked for in so many bytes: declarations and comments come before it. */
const HEAD = 65_536;

/** The same drawing with its namespace, which programs that draw ask for and some that write leave out. */
export function withNamespace(bytes: Uint8Array): Uint8Array {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, HEAD));
  const root = /<svg(?=[\s>])[^>]*>/.exec(head);
  if (!root || /\sxmlns\s*=/.test(root[0])) return bytes;
  const at = root.index + '<svg'.length;
  const added = new TextEncoder().encode(` xmlns="${SVG_NAMESPACE}"`);
  const whole = new Uint8Array(bytes.length + added.length);
  whole.set(bytes.subarray(0, at));
  whole.set(added, at);
  whole.set(bytes.subarray(at), at + added.length);
  return whole;
}
