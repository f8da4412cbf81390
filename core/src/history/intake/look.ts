/** What is kept of a copy once it was looked into. */
import { piecesOf, SKETCH, sketchOf } from '../../desk/sketch.ts';
import { detect, HEAD_BYTES } from '../../formats/registry.ts';
import { open } from '../../kinds/content.ts';
import { modelOf } from '../../kinds/conversions.ts';
import { cellsOf } from './cells.ts';
import type { Card } from '../../model/card.ts';
import type { Written } from '../../model/written.ts';
import type { FoundCopy } from './plan.ts';

/**
 * Looks into one copy. `at` is when it was changed, in milliseconds since 1970; `sha256` is of all its bytes. Pictures
 * are looked at as pixels, where this machine can decode them; all else as bytes.
 */
export async function lookAtCopy(
  path: string,
  bytes: Uint8Array,
  at: number | undefined,
  sha256: string,
): Promise<FoundCopy> {
  const card = detect(bytes.subarray(0, HEAD_BYTES), path);
  const cells = await pictureCells(card, path, bytes);
  const pieces = cells ?? piecesOf(bytes);
  const inside = await writtenIn(card, bytes);
  return { path, at, inside, sha256, pieces, sketch: cells ? cells.slice(0, SKETCH) : sketchOf(bytes) };
}

/** What the file says of itself; nothing where it says none, or cannot be read. */
async function writtenIn(card: Card | undefined, bytes: Uint8Array): Promise<Written> {
  try {
    return (await card?.load())?.written?.(bytes) ?? {};
  } catch {
    return {};
  }
}

async function pictureCells(card: Card | undefined, path: string, bytes: Uint8Array): Promise<Uint32Array | undefined> {
  if (card?.kinds[0] !== 'picture') return undefined;
  try {
    const pictures = await modelOf(await open(bytes, path), 'picture');
    const { bitmap, lossy } = await pictures.page(0);
    return cellsOf(bitmap, lossy);
  } catch {
    // It is broken, or cannot be decoded here: its bytes must do.
    return undefined;
  }
}
