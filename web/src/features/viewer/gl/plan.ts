/** What of an arranged scene is in sight, in the order in which it is drawn. */
import type { Camera } from '../camera.ts';
import { longerThan, type Arranged, type Block } from './arrange.ts';

/** Segments that are drawn in one call, by their places in the arranged scene. */
export interface Run {
  readonly first: number;
  readonly count: number;
}

interface Sight extends Camera {
  /** Size of the view in CSS pixels. */
  readonly width: number;
  readonly height: number;
}

/** Lengths on the screen, in pixels, at which drawing stops to take the next block: long lines of all come before short ones of any. */
const STEPS = [24, 6, 1.5, 0.4] as const;

/** At least so many of a block's specks are drawn, to show that something is there. */
const FEWEST_SPECKS = 64;

/** Runs of segments in sight: the long lines of every block first, then shorter ones; of what is smaller than a dot, some. */
export function planRuns(arranged: Arranged, origin: readonly number[], sight: Sight): Run[] {
  const pixel = 1 / sight.scale;
  const begun = new Map<Block, number>();
  const upTo = (block: Block, end: number): Run[] => {
    const begin = begun.get(block) ?? 0;
    if (end <= begin) return [];
    begun.set(block, end);
    return [{ first: block.first + begin, count: end - begin }];
  };
  const seen = inSight(arranged.blocks, origin, sight);
  const lines = STEPS.flatMap((pixels) =>
    seen.flatMap((block) => upTo(block, longerThan(arranged, block, pixels * pixel))),
  );
  const specks = seen.flatMap((block) => {
    const most = Math.max(FEWEST_SPECKS, Math.ceil(pixelsOf(block, pixel) * 0.5));
    return upTo(block, Math.min(block.count, (begun.get(block) ?? 0) + most));
  });
  return [...lines, ...specks];
}

/** The area of a block on the screen, in pixels. */
const pixelsOf = ({ box }: Block, pixel: number): number => ((box[2] - box[0]) / pixel) * ((box[3] - box[1]) / pixel);

function inSight(blocks: readonly Block[], origin: readonly number[], sight: Sight): Block[] {
  const [originX = 0, originY = 0] = origin;
  const left = -sight.x / sight.scale - originX;
  const top = -sight.y / sight.scale - originY;
  const right = (sight.width - sight.x) / sight.scale - originX;
  const bottom = (sight.height - sight.y) / sight.scale - originY;
  return blocks.filter(({ box }) => box[2] >= left && box[0] <= right && box[3] >= top && box[1] <= bottom);
}
