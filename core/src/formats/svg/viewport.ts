/** The visible area of a drawing and of nested drawings (SVG 2 §8.2–8.6). */
import type { Box } from '../../geometry/box.ts';
import type { Page } from '../../model/design.ts';
import type { Matrix } from '../../geometry/matrix.ts';
import type { XmlElement } from '../xml/parse.ts';
import { lengthOf, millimetresPer, splitLength } from './length.ts';
import type { Viewport } from './shapes.ts';

/** x, y, width, height; undefined where missing or not usable. */
function viewBoxOf(e: XmlElement): [number, number, number, number] | undefined {
  const v = (e.attributes['viewBox'] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [x, y, w, h] = v;
  return v.length === 4 && v.every(Number.isFinite) && (w as number) > 0 && (h as number) > 0
    ? [x as number, y as number, w as number, h as number]
    : undefined;
}

export interface RootView {
  /** undefined where neither a viewBox nor a size is given: the extents of the content count then. */
  readonly page: Box | undefined;
  readonly view: Viewport;
  readonly unitMillimetres: number | undefined;
  readonly units: string | undefined;
  readonly frame: Page['frame'] | undefined;
}

export function rootView(root: XmlElement): RootView {
  const box = viewBoxOf(root);
  const w = splitLength(root.attributes['width']);
  const h = splitLength(root.attributes['height']);
  const sized = w && h && w.unit !== '%' && h.unit !== '%' && w.value > 0 && h.value > 0;
  const width = sized ? lengthOf(root.attributes['width'], 100, 100) : 100;
  const height = sized ? lengthOf(root.attributes['height'], 100, 100) : 100;
  const paper: Box | undefined = sized ? [0, 0, width, height] : undefined;
  const page: Box | undefined = box ? [box[0], box[1], box[0] + box[2], box[1] + box[3]] : paper;
  const millimetres = w ? millimetresPer[w.unit] : undefined;
  const unitMillimetres = millimetres && w ? (w.value * millimetres) / (box?.[2] ?? width) : undefined;
  return {
    page,
    units: w && w.unit !== '%' ? w.unit || 'px' : undefined,
    frame: sized ? frameOf([width, height], page, root.attributes['preserveAspectRatio']) : undefined,
    unitMillimetres,
    view: { width: box?.[2] ?? width, height: box?.[3] ?? height },
  };
}

const MILLIMETRES_A_PIXEL = 25.4 / 96;
const FITTED = 'xMidYMid meet';

/** How it fits shows only where the frame has another shape than the page. */
function frameOf([width, height]: readonly [number, number], page: Box | undefined, asked = FITTED): Page['frame'] {
  const size = [width * MILLIMETRES_A_PIXEL, height * MILLIMETRES_A_PIXEL] as const;
  const ratio = page ? ((page[2] - page[0]) * height) / ((page[3] - page[1]) * width) : 1;
  const fit = asked.trim().replace(/\s+/g, ' ');
  const whole = fit.includes(' ') || fit === 'none' ? fit : `${fit} meet`;
  return { size, fit: Math.abs(ratio - 1) < 1e-3 ? FITTED : whole };
}

/** The map from the inside of a nested `<svg>` or a placed `<symbol>` to the outside. */
export function nestedView(
  e: XmlElement,
  view: Viewport,
  placed?: { width?: string | undefined; height?: string | undefined },
): { matrix: Matrix; view: Viewport } {
  const x = e.name === 'svg' ? lengthOf(e.attributes['x'], view.width) : 0;
  const y = e.name === 'svg' ? lengthOf(e.attributes['y'], view.height) : 0;
  const width = lengthOf(placed?.width ?? e.attributes['width'] ?? '100%', view.width, view.width);
  const height = lengthOf(placed?.height ?? e.attributes['height'] ?? '100%', view.height, view.height);
  const box = viewBoxOf(e);
  if (!box) return { matrix: [1, 0, 0, 1, x, y], view: { width, height } };
  const [align = 'xMidYMid', fit] = (e.attributes['preserveAspectRatio'] ?? '').trim().split(/\s+/).filter(Boolean);
  const scales = [width / box[2], height / box[3]] as const;
  const both = fit === 'slice' ? Math.max(...scales) : Math.min(...scales);
  const [sx, sy] = align === 'none' ? scales : [both, both];
  const shift = (word: string, room: number): number => {
    if (word === 'Min') return 0;
    if (word === 'Max') return room;
    return room / 2;
  };
  const dx = align === 'none' ? 0 : shift(align.slice(1, 4), width - box[2] * sx);
  const dy = align === 'none' ? 0 : shift(align.slice(5, 8), height - box[3] * sy);
  return {
    matrix: [sx, 0, 0, sy, x + dx - box[0] * sx, y + dy - box[1] * sy],
    view: { width: box[2], height: box[3] },
  };
}
