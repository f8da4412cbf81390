import { engine, kindOf, modelOf, open, svgOf } from '@ovrel/core';
import { drawnBy, encodePng } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** Milliseconds that a drawing process may take. */
const TIME = 12_000;

interface Input {
  readonly source: Source;
  /** Longer side, in pixels. */
  readonly side: number;
}

/**
 * A small picture as PNG; null for what has none. A drawing that cannot be read is not handed to a drawing library
 * either.
 */
export const thumbnail: Task<Input, Uint8Array | null> = ({ source: { bytes, name }, side }) =>
  orNothing(async () => {
    const content = await open(bytes, name);
    const [kind] = content.kinds;
    const { card, format, design } = content;
    if (kind === 'picture' && !card?.layers) return (await drawnBy('picture', bytes, side, TIME)) ?? null;
    if (kind === 'drawing' && design && isCrowded(content)) {
      const drawn = await engine('drawings').then((e) => e.draw(new TextEncoder().encode(svgOf(design, 0)), side));
      return encodePng(drawn);
    }
    const { picture } = kindOf(kind);
    if (!format || !picture) return null;
    return encodePng(await picture({ content, model: await modelOf(content, kind) }, 0, side));
  });

/** What browsers are too slow for, drawing libraries are, too. */
function isCrowded({ card, design }: Awaited<ReturnType<typeof open>>): boolean {
  return card?.crowd !== undefined && (design?.parts.length ?? 0) > card.crowd.parts;
}
