/** Draws versions and their changes on a canvas. Nothing here knows about React. */
import type { Camera } from '../camera.ts';
import type { Showing } from '../looks.ts';
import { drawMeasure } from '../measure.ts';
import { drawMinimap, minimapIn } from '../minimap.ts';
import { drawPins } from '../pins.ts';
import { drawFrames } from './frames.ts';
import { changes, halo } from './marks.ts';
import { clipped, INK, type Painted, type Sheet, type Surface } from './scene.ts';
import { paper, picture, sheet } from './sheets.ts';
import { difference, tinted } from './tint.ts';

export type { Painted, Sheet, Surface };

export function paint(surface: Surface, scene: Painted, camera: Camera): void {
  const { context: c, width, height, ratio } = surface;
  c.setTransform(ratio, 0, 0, ratio, 0, 0);
  c.clearRect(0, 0, width, height);
  if (scene.comparing) looks[scene.look](surface, scene, camera);
  else plain(surface, scene.b, camera);
  if (scene.frames?.length) drawFrames(c, scene.frames, scene.comparing ? cameraOfB(surface, scene, camera) : camera);
  drawPins(c, scene.pins, scene.comparing ? cameraOfB(surface, scene, camera) : camera);
  const box = scene.b?.box;
  const mapped = scene.comparing && scene.changes.length > 0 && scene.look !== 'side';
  const map = box && mapped ? minimapIn(box, camera, width, height) : undefined;
  if (box && map) drawMinimap(c, map, scene.changes, box, camera, width, height);
  if (scene.measure) drawMeasure(c, scene.measure.points, scene.measure.words, camera);
}

type Painter = (surface: Surface, scene: Painted, camera: Camera) => void;

const plain = (surface: Surface, page: Sheet | undefined, camera: Camera): void => {
  if (page) sheet(surface, page, camera, 1, false);
};

/** Side by side, B is moved to the right half. */
const cameraOfB = ({ width }: Surface, { look }: Painted, camera: Camera): Camera =>
  look === 'side' ? { ...camera, x: camera.x + Math.floor(width / 2) } : camera;

const sideBySide: Painter = (surface, scene, camera) => {
  const { context: c, width, height } = surface;
  const half = Math.floor(width / 2);
  const shifted = cameraOfB(surface, scene, camera);
  clipped(c, [0, 0, half, height], () => {
    plain(surface, scene.a, camera);
    changes(c, scene, camera, 'a');
  });
  clipped(c, [half, 0, width - half, height], () => {
    plain(surface, scene.b, shifted);
    changes(c, scene, shifted, 'b');
  });
  c.fillStyle = INK;
  c.fillRect(half - 0.5, 0, 1, height);
};

const curtain: Painter = (surface, scene, camera) => {
  const { context: c, width, height } = surface;
  const x = scene.curtain * width;
  clipped(c, [0, 0, x, height], () => plain(surface, scene.a, camera));
  clipped(c, [x, 0, width - x, height], () => plain(surface, scene.b, camera));
  halo(c, scene, camera);
};

const blink: Painter = (surface, scene, camera) => {
  plain(surface, scene.blinkA ? scene.a : scene.b, camera);
  halo(surface.context, scene, camera);
};

const heat: Painter = (surface, scene, camera) => {
  const { context: c } = surface;
  if (scene.b) paper(c, scene.b, camera);
  if (scene.heat && scene.b) picture(surface, { image: scene.heat, box: scene.b.box }, camera, 1, false, false);
  halo(c, scene, camera);
};

/** What did not change stays faintly seen under the changes, or not at all. */
const overlaid =
  (faint: number): Painter =>
  (surface, scene, camera) => {
    const { context: c, width, height } = surface;
    clipped(c, [0, 0, width, height], () => {
      for (const page of [scene.a, scene.b]) if (page) paper(c, page, camera);
      if (scene.pixels && faint) tinted(surface, scene, camera);
      else if (scene.pixels) difference(surface, scene, camera);
      else if (scene.b && faint) sheet(surface, scene.b, camera, faint, true);
      changes(c, scene, camera, 'both');
    });
  };

const looks: Readonly<Record<Showing, Painter>> = {
  side: sideBySide,
  curtain,
  blink,
  heat,
  overlay: overlaid(0.35),
  only: overlaid(0),
};
