/** What lies at a point of the canvas. */
import type { Change } from '@ovrel/core/contract';
import type { Box, Camera } from '../camera.ts';
import { minimapIn, throughMinimap } from '../minimap.ts';
import type { Painted } from '../paint/scene.ts';
import { pinAt } from '../pins.ts';

/** What is to be seen now. */
export interface Shown {
  readonly camera: Camera;
  readonly scene: Painted;
  readonly size: { readonly width: number; readonly height: number };
}

/** How near a pointer must come, in pixels. */
const REACH = { change: 5, part: 7, end: 9 } as const;

const isSideBySide = ({ scene }: Shown): boolean => scene.comparing && scene.look === 'side';

/** Side by side, B is shown in the right half: how far to the left a point there would lie in A. */
const shiftAt = (shown: Shown, x: number): number =>
  isSideBySide(shown) && x > shown.size.width / 2 ? shown.size.width / 2 : 0;

/** Where a point of the canvas lies on the page. */
export function onPage(shown: Shown, x: number, y: number): readonly [number, number] {
  const { camera: m } = shown;
  return [(x - shiftAt(shown, x) - m.x) / m.scale, (y - m.y) / m.scale];
}

const area = (box: Box | null): number => (box ? (box[2] - box[0]) * (box[3] - box[1]) : Infinity);
const smallest = ({ boxA, boxB }: Change): number => Math.min(area(boxA), area(boxB));

/** The smallest change that is drawn there. */
export function changeAt(shown: Shown, x: number, y: number): string | undefined {
  const [px, py] = onPage(shown, x, y);
  const slack = REACH.change / shown.camera.scale;
  const inside = (box: Box | null): boolean =>
    box !== null && px >= box[0] - slack && px <= box[2] + slack && py >= box[1] - slack && py <= box[3] + slack;
  const hits = shown.scene.changes.filter((c) => inside(c.boxA) || inside(c.boxB));
  return hits.toSorted((p, q) => smallest(p) - smallest(q))[0]?.id;
}

/** The part of the sheet that is drawn nearest, by its index; only for pages drawn from parts. */
export const partAt = ({ camera, scene }: Shown, x: number, y: number): number | undefined =>
  scene.b?.renderer?.partAt(camera, x, y, REACH.part);

/** Where the small page points; undefined beside it, and where there is none. */
export function mapTarget({ camera, scene, size }: Shown, x: number, y: number): Camera | undefined {
  const box = scene.b?.box;
  if (!box || !scene.comparing || scene.changes.length === 0 || scene.look === 'side') return undefined;
  const map = minimapIn(box, camera, size.width, size.height);
  return map && throughMinimap(map, box, camera, x, y, size.width, size.height);
}

/** The comment whose flag stands there. */
export function pinUnder(shown: Shown, x: number, y: number): string | undefined {
  const { camera, scene, size } = shown;
  const shift = isSideBySide(shown) ? Math.floor(size.width / 2) : 0;
  return pinAt(scene.pins, { ...camera, x: camera.x + shift }, x, y);
}

/** The end of a line there, in page coordinates; else the point itself. */
export const snappedTo = (shown: Shown, x: number, y: number): readonly [number, number] =>
  shown.scene.b?.renderer?.endAt(shown.camera, x - shiftAt(shown, x), y, REACH.end) ?? onPage(shown, x, y);
