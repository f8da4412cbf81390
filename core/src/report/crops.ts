/** Before and after of what a cause touches, as two SVG pictures of the same part of the page. */
import type { Box } from '../geometry/box.ts';
import type { Comparison } from '../contract/comparison.ts';
import type { ComparedParts } from '../kinds/kind.ts';
import type { Design } from '../model/design.ts';
import { svgOf } from '../kinds/drawing/draw/svg.ts';

export interface Crop {
  /** Id of the cause. */
  readonly cause: string;
  readonly a: string | null;
  readonly b: string | null;
}

/** Changes that are framed in a picture, at most. */
const FRAMED = 120;
const colours = { a: '#B45309', b: '#0F766E' } as const;

export function cropsOf(
  comparison: Pick<Comparison, 'changes' | 'causes'>,
  { a, b }: Pick<ComparedParts, 'a' | 'b'>,
  most: number,
): Crop[] {
  const changes = new Map(comparison.changes.map((c) => [c.id, c]));
  return comparison.causes
    .filter((c) => c.changes.length)
    .slice(0, most)
    .map((cause): Crop => {
      const of = cause.changes.flatMap((id) => changes.get(id) ?? []);
      const page = of[0]?.part.page ?? '';
      const here = of.filter((c) => c.part.page === page);
      const boxes = here.flatMap((c) => [c.boxA, c.boxB]).filter((x): x is NonNullable<typeof x> => x !== null);
      const [first] = boxes;
      if (!first) return { cause: cause.id, a: null, b: null };
      const all = boxes.reduce<Box>(
        (s, x) => [Math.min(s[0], x[0]), Math.min(s[1], x[1]), Math.max(s[2], x[2]), Math.max(s[3], x[3])],
        first,
      );
      const picture = (design: Design, side: 'a' | 'b'): string | null => {
        const index = design.pages.findIndex((p) => p.name === page);
        if (index < 0) return null;
        const box = roomy(all, design.pages[index]?.box);
        const frames = here.slice(0, FRAMED).flatMap((c) => (side === 'a' ? c.boxA : c.boxB) ?? []);
        const svg = svgOf(design, index, {
          box,
          only: (p) =>
            p.box !== undefined && p.box[0] <= box[2] && p.box[2] >= box[0] && p.box[1] <= box[3] && p.box[3] >= box[1],
        });
        const pen = Math.max(box[2] - box[0], box[3] - box[1]) / 320;
        const marks: string[] = [];
        for (let i = 0; i + 3 < frames.length; i += 4) {
          const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = frames.slice(i, i + 4);
          marks.push(
            `<rect x="${x0 - pen * 2}" y="${y0 - pen * 2}" width="${x1 - x0 + 4 * pen}" height="${y1 - y0 + 4 * pen}" stroke="${colours[side]}" stroke-width="${pen}"${side === 'a' ? ` stroke-dasharray="${pen * 4} ${pen * 2}"` : ''}/>`,
          );
        }
        return svg.replace(/<\/svg>\n$/, `${marks.join('')}</svg>\n`);
      };
      return { cause: cause.id, a: picture(a, 'a'), b: picture(b, 'b') };
    });
}

/** With something around it, and no flatter than three to one. */
function roomy(box: Box, page: Box | undefined): Box {
  const least = page ? Math.max(page[2] - page[0], page[3] - page[1]) / 40 : 0;
  const w = Math.max(box[2] - box[0], least);
  const h = Math.max(box[3] - box[1], least);
  const side = Math.max(w, h);
  const cx = (box[0] + box[2]) / 2;
  const cy = (box[1] + box[3]) / 2;
  const hw = Math.max(w, side / 1.6) * 0.62;
  const hh = Math.max(h, side / 2.4) * 0.62;
  return [cx - hw, cy - hh, cx + hw, cy + hh];
}
