/** Finds the other files that a file needs. Tolerant: what cannot be read has none; never throws. */
import { detect, HEAD_BYTES } from '../formats/registry.ts';
import type { Reference } from './reference.ts';

/** More than these are not listed. */
export const MOST_REFERENCES = 5000;

/** Not a place in the file itself, and not content that stands within it. */
const isOutside = (target: string): boolean =>
  target !== '' && !target.startsWith('#') && !/^(?:data|blob|javascript|mailto|urn):/i.test(target);

/** Each is named once, in the order of the file. Source of each format's rules: its published specification. */
export async function referencesOf(bytes: Uint8Array, name: string): Promise<Reference[]> {
  const format = await detect(bytes.subarray(0, HEAD_BYTES), name)?.load();
  const found = new Map<string, Reference>();
  try {
    for (const reference of format?.references?.(bytes) ?? []) {
      const target = reference.target.trim();
      if (!isOutside(target) || found.has(target)) continue;
      found.set(target, { ...reference, target });
      if (found.size >= MOST_REFERENCES) break;
    }
  } catch {
    // A file that cannot be read is still kept; it says so elsewhere.
  }
  return [...found.values()];
}
