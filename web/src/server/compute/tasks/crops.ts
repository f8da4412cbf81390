import { cropsOf, engine, open, type Comparison } from '@ovrel/core';
import { encodePng, picturesCropped } from '@ovrel/core/node';
import type { Source, Task } from '../task.ts';
import { compared } from './shared.ts';

/** Longer side of a drawn crop, in pixels. */
const SIDE = 900;

interface Input {
  readonly a: Source;
  readonly b: Source;
  readonly most: number;
  /** Of pictures, which were compared already. */
  readonly comparison?: Pick<Comparison, 'causes' | 'changes'>;
}

/** What a cause touches, before and after, as PNG; null where that side has nothing there. */
export interface CauseCrop {
  /** Id of the cause. */
  readonly cause: string;
  readonly a: Uint8Array | null;
  readonly b: Uint8Array | null;
}

/** Before and after of the heaviest causes. */
export const crops: Task<Input, CauseCrop[]> = async ({ a, b, most, comparison: known }) => {
  if (known) {
    const contents = [await open(a.bytes, a.name), await open(b.bytes, b.name)] as const;
    const found = await picturesCropped(...contents, known, most);
    return found.map((crop) => ({ cause: crop.cause, a: crop.a ?? null, b: crop.b ?? null }));
  }
  const { comparison, parts } = await compared(a, b);
  const out: CauseCrop[] = [];
  for (const crop of parts ? cropsOf(comparison, parts, most) : [])
    out.push({ cause: crop.cause, a: await drawn(crop.a), b: await drawn(crop.b) });
  return out;
};

async function drawn(svg: string | null): Promise<Uint8Array | null> {
  if (svg === null) return null;
  const drawings = await engine('drawings');
  return encodePng(await drawings.draw(new TextEncoder().encode(svg), SIDE));
}
