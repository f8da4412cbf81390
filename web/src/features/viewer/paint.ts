/** Draws versions and their changes on a canvas. Nothing here knows about React. */
import type { Change } from '@ovrel/core/contract';
import type { Outline, ChangeOutlines } from '@ovrel/core';
import type { Box, Camera } from './camera.ts';
import { drawMeasure, type Spot } from './measure.ts';
import { drawMinimap, minimapIn } from './minimap.ts';
import { drawPins, type Pin } from './pins.ts';
import type { SceneRenderer } from './gl/renderer.ts';
import { inkOf, signOf, type Look } from './looks.ts';

export interface Sheet {
  /** A picture that the browser draws. */
  readonly image?: CanvasImageSource;
  /** Or a page that is drawn from its parts. */
  readonly renderer?: SceneRenderer;
  /** The part of the design that the image shows. */
  readonly box: Box;
  /** A part of it, drawn more finely. */
  readonly detail?: { readonly image: CanvasImageSource; readonly box: Box } | undefined;
  /** From pixels of the image to the page, where it does not just fill its box. */
  readonly matrix?: readonly number[] | undefined;
}

export interface Scene {
  readonly look: Look;
  readonly a: Sheet | undefined;
  readonly b: Sheet | undefined;
  readonly comparing: boolean;
  readonly changes: readonly Change[];
  readonly outlines: ChangeOutlines['outlines'];
  /** True where both sides are pictures without parts: the overlay shows the difference of pixels. */
  readonly pixels: boolean;
  readonly selected: string | undefined;
  /** 0 to 1: how far the pulse around the selected change has run; 1 for none. */
  readonly pulse: number;
  readonly curtain: number;
  readonly blinkA: boolean;
  /** Points between which is measured, and what they say. */
  readonly measure?: { readonly points: readonly Spot[]; readonly words: string } | undefined;
  /** Comments that stand on this page. */
  readonly pins: readonly Pin[];
  /** Part of the page that the list is limited to. */
  readonly area?: Box | undefined;
  /** Of pictures: how much each square of the page differs, as an image over B's page. */
  readonly heat?: CanvasImageSource | undefined;
  /** Layers that a person switched; a change of it is a reason to draw anew. */
  readonly switched: ReadonlyMap<string, boolean>;
}

export interface Surface {
  readonly context: CanvasRenderingContext2D;
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
  /** True while the view moves: what takes long may be drawn in part. */
  readonly moving: boolean;
}

const PAPER = '#ffffff';
/** Marks beside parts are left out above this number; they would cover the drawing. */
const MOST_MARKS = 150;

export function paint(surface: Surface, scene: Scene, camera: Camera): void {
  const { context: c, width, height, ratio } = surface;
  c.setTransform(ratio, 0, 0, ratio, 0, 0);
  c.clearRect(0, 0, width, height);
  const whole: Rect = [0, 0, width, height];
  if (!scene.comparing) {
    if (scene.b) sheet(surface, scene.b, camera, 1, false);
    drawPins(c, scene.pins, camera);
    if (scene.measure) drawMeasure(c, scene.measure.points, scene.measure.words, camera);
    return;
  }
  if (scene.look === 'side') {
    const half = Math.floor(width / 2);
    clipped(c, [0, 0, half, height], () => {
      if (scene.a) sheet(surface, scene.a, camera, 1, false);
      changes(c, scene, camera, 'a');
    });
    clipped(c, [half, 0, width - half, height], () => {
      const shifted = { ...camera, x: camera.x + half };
      if (scene.b) sheet(surface, scene.b, shifted, 1, false);
      changes(c, scene, shifted, 'b');
    });
    c.fillStyle = '#17212b';
    c.fillRect(half - 0.5, 0, 1, height);
  } else if (scene.look === 'curtain') {
    const x = scene.curtain * width;
    clipped(c, [0, 0, x, height], () => scene.a && sheet(surface, scene.a, camera, 1, false));
    clipped(c, [x, 0, width - x, height], () => scene.b && sheet(surface, scene.b, camera, 1, false));
    halo(c, scene, camera);
  } else if (scene.look === 'blink') {
    const now = scene.blinkA ? scene.a : scene.b;
    if (now) sheet(surface, now, camera, 1, false);
    halo(c, scene, camera);
  } else if (scene.look === 'heat') {
    if (scene.b) paper(c, scene.b, camera);
    if (scene.heat && scene.b) picture(surface, { image: scene.heat, box: scene.b.box }, camera, 1, false, false);
    halo(c, scene, camera);
  } else {
    const faint = scene.look === 'overlay' ? 0.35 : 0;
    clipped(c, whole, () => {
      for (const one of [scene.a, scene.b]) if (one) paper(c, one, camera);
      if (scene.pixels && faint) tinted(surface, scene, camera);
      else if (scene.pixels) difference(surface, scene, camera);
      else if (scene.b && faint) sheet(surface, scene.b, camera, faint, true);
      changes(c, scene, camera, 'both');
    });
  }
  // Places are those in B.
  drawPins(c, scene.pins, scene.look === 'side' ? { ...camera, x: camera.x + Math.floor(width / 2) } : camera);
  const box = scene.b?.box;
  const map = box && scene.changes.length && scene.look !== 'side' ? minimapIn(box, camera, width, height) : undefined;
  if (box && map) drawMinimap(c, map, scene.changes, box, camera, width, height);
  if (scene.measure) drawMeasure(c, scene.measure.points, scene.measure.words, camera);
}

type Rect = readonly [x: number, y: number, width: number, height: number];

function clipped(c: CanvasRenderingContext2D, [x, y, w, h]: Rect, draw: () => void): void {
  c.save();
  c.beginPath();
  c.rect(x, y, w, h);
  c.clip();
  draw();
  c.restore();
}

function paper(c: CanvasRenderingContext2D, { box }: Sheet, m: Camera): void {
  c.fillStyle = PAPER;
  c.fillRect(box[0] * m.scale + m.x, box[1] * m.scale + m.y, (box[2] - box[0]) * m.scale, (box[3] - box[1]) * m.scale);
}

function sheet(surface: Surface, s: Sheet, m: Camera, alpha: number, grey: boolean): void {
  paper(surface.context, s, m);
  picture(surface, s, m, alpha, grey);
}

function picture(surface: Surface, s: Sheet, m: Camera, alpha: number, grey: boolean, smooth = true): void {
  const { context: c, width, height, ratio, moving } = surface;
  if (s.renderer) {
    c.drawImage(s.renderer.render(m, width, height, ratio, moving, grey), 0, 0, width, height);
    s.renderer.words(c, m, width, height, grey);
    return;
  }
  if (!s.image) return;
  c.save();
  c.globalAlpha = alpha;
  if (grey) c.filter = 'grayscale(1)';
  c.imageSmoothingQuality = 'high';
  c.imageSmoothingEnabled = smooth && m.scale < 4;
  const { box, matrix } = s;
  if (matrix) {
    c.transform(m.scale, 0, 0, m.scale, m.x, m.y);
    c.transform(...(matrix as [number, number, number, number, number, number]));
    c.drawImage(s.image, 0, 0);
  } else {
    for (const {
      image,
      box: [x0, y0, x1, y1],
    } of [{ image: s.image, box }, ...(s.detail ? [s.detail] : [])])
      c.drawImage(image, x0 * m.scale + m.x, y0 * m.scale + m.y, (x1 - x0) * m.scale, (y1 - y0) * m.scale);
  }
  c.restore();
}

/** The picture in grey; what A has darker keeps A's colour, what B has darker B's. */
function tinted(surface: Surface, scene: Scene, m: Camera): void {
  const { context: c, width, height } = surface;
  const { a, b } = scene;
  if (!a || !b) return;
  const greyA = layer(surface, (l) => picture({ ...surface, context: l }, a, m, 1, true));
  const greyB = layer(surface, (l) => picture({ ...surface, context: l }, b, m, 1, true));
  const whole = layer(surface, (l) => {
    l.drawImage(greyA, 0, 0, width, height);
    l.globalCompositeOperation = 'lighten';
    l.drawImage(greyB, 0, 0, width, height);
    l.globalCompositeOperation = 'source-over';
    l.fillStyle = 'rgb(255 255 255 / 0.4)';
    l.fillRect(0, 0, width, height);
    l.globalCompositeOperation = 'difference';
    for (const [dark, light, colour] of [
      [greyA, greyB, inkOf.removed],
      [greyB, greyA, inkOf.added],
    ] as const)
      l.drawImage(darker(surface, dark, light, colour), 0, 0, width, height);
  });
  const { box } = b;
  clipped(
    c,
    [box[0] * m.scale + m.x, box[1] * m.scale + m.y, (box[2] - box[0]) * m.scale, (box[3] - box[1]) * m.scale],
    () => c.drawImage(whole, 0, 0, width, height),
  );
}

function layer({ width, height, ratio }: Surface, draw: (context: CanvasRenderingContext2D) => void): OffscreenCanvas {
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio)));
  const l = canvas.getContext('2d') as unknown as CanvasRenderingContext2D;
  l.setTransform(ratio, 0, 0, ratio, 0, 0);
  l.fillStyle = PAPER;
  l.fillRect(0, 0, width, height);
  draw(l);
  return canvas;
}

/** How much darker one is than the other, times what has to be taken from white to leave a colour. */
function darker(surface: Surface, dark: OffscreenCanvas, light: OffscreenCanvas, colour: string): OffscreenCanvas {
  const { width, height } = surface;
  return layer(surface, (l) => {
    // Dark + (white − light), cut off at white, turned over: what light has more.
    l.drawImage(dark, 0, 0, width, height);
    l.globalCompositeOperation = 'lighter';
    l.filter = 'invert(1)';
    l.drawImage(light, 0, 0, width, height);
    l.filter = 'none';
    l.globalCompositeOperation = 'difference';
    l.fillStyle = PAPER;
    l.fillRect(0, 0, width, height);
    l.globalCompositeOperation = 'multiply';
    l.fillStyle = `#${(0xffffff - parseInt(colour.slice(1), 16)).toString(16).padStart(6, '0')}`;
    l.fillRect(0, 0, width, height);
  });
}

/** What differs between two pictures stays dark; what is equal goes white. */
function difference(surface: Surface, scene: Scene, m: Camera): void {
  if (!scene.a || !scene.b) return;
  const { context: c } = surface;
  sheet(surface, scene.a, m, 1, false);
  c.save();
  c.globalCompositeOperation = 'difference';
  picture(surface, scene.b, m, 1, false);
  // Equal pixels are black now; turned over, they are white.
  c.fillStyle = '#ffffff';
  const { box } = scene.b;
  c.fillRect(box[0] * m.scale + m.x, box[1] * m.scale + m.y, (box[2] - box[0]) * m.scale, (box[3] - box[1]) * m.scale);
  c.restore();
}

function changes(c: CanvasRenderingContext2D, scene: Scene, m: Camera, side: 'a' | 'b' | 'both'): void {
  const marks = scene.changes.length <= MOST_MARKS;
  for (const change of scene.changes) drawChange(c, change, scene.outlines[change.id] ?? {}, m, side);
  // Marks that would cover one another are left out; the first in the list keeps its place.
  const taken = new Set<string>();
  for (const change of marks ? scene.changes : []) mark(c, change, m, side, taken);
  halo(c, scene, m);
  if (scene.area) areaFrame(c, scene.area, m);
}

function areaFrame(c: CanvasRenderingContext2D, box: Box, m: Camera): void {
  c.save();
  c.strokeStyle = '#17212b';
  c.setLineDash([2, 4]);
  c.strokeRect(
    box[0] * m.scale + m.x,
    box[1] * m.scale + m.y,
    (box[2] - box[0]) * m.scale,
    (box[3] - box[1]) * m.scale,
  );
  c.restore();
}

function drawChange(
  c: CanvasRenderingContext2D,
  change: Change,
  outline: { a?: Outline | undefined; b?: Outline | undefined },
  m: Camera,
  side: 'a' | 'b' | 'both',
): void {
  const ink = inkOf[change.kind];
  const { kind } = change;
  if (side !== 'b' && change.boxA && kind !== 'added') {
    trace(c, outline.a, change.boxA, m);
    // The new words of a changed text stand alone; the old ones are in the list.
    const old = outline.a && kind === 'changed' ? { paths: outline.a.paths, closed: outline.a.closed } : outline.a;
    stroke(
      c,
      old,
      m,
      ink,
      kind === 'removed' ? [7, 4] : [2, 3],
      kind === 'removed' ? 2 : 1.25,
      kind === 'removed' ? 0.14 : 0,
    );
  }
  if (side !== 'a' && change.boxB && kind !== 'removed') {
    trace(c, outline.b, change.boxB, m);
    if (kind === 'changed') {
      stroke(c, outline.b, m, ink, [], 4.5, 0.1);
      stroke(c, undefined, m, PAPER, [], 1.5, 0);
    } else stroke(c, outline.b, m, ink, [], 2, kind === 'added' ? 0.16 : 0.08);
  }
  if (side === 'both' && kind === 'moved' && change.boxA && change.boxB)
    arrow(c, middle(change.boxA, m), middle(change.boxB, m), ink);
}

/** Makes the part's outline the current path; its box where there is none. */
function trace(c: CanvasRenderingContext2D, outline: Outline | undefined, box: Box, m: Camera): void {
  c.beginPath();
  const size = Math.max(box[2] - box[0], box[3] - box[1]) * m.scale;
  if (!outline?.paths.length || size < 2) {
    // Too small to see, or without lines: at least three pixels, so that nothing is invisible.
    const grow = Math.max(0, (3 - size) / 2) + (outline?.words ? 2 : 0);
    c.rect(
      box[0] * m.scale + m.x - grow,
      box[1] * m.scale + m.y - grow,
      (box[2] - box[0]) * m.scale + 2 * grow,
      (box[3] - box[1]) * m.scale + 2 * grow,
    );
    return;
  }
  outline.paths.forEach((path, k) => {
    for (let i = 0; i + 1 < path.length; i += 2) {
      const x = (path[i] as number) * m.scale + m.x;
      const y = (path[i + 1] as number) * m.scale + m.y;
      if (i) c.lineTo(x, y);
      else c.moveTo(x, y);
    }
    if (outline.closed[k]) c.closePath();
  });
}

function stroke(
  c: CanvasRenderingContext2D,
  outline: Outline | undefined,
  m: Camera,
  ink: string,
  dash: number[],
  width: number,
  fill: number,
): void {
  c.save();
  c.setLineDash(dash);
  c.lineWidth = width;
  c.lineJoin = 'round';
  c.strokeStyle = ink;
  if (fill && (outline?.closed.some(Boolean) ?? true)) {
    c.globalAlpha = fill;
    c.fillStyle = ink;
    c.fill('evenodd');
    c.globalAlpha = 1;
  }
  c.stroke();
  if (outline?.words && outline.font) words(c, outline, m, ink);
  c.restore();
}

/** Plain words for a kind of face are not the name of one; pages that are drawn from parts use the interface's own faces for them. */
const generic: Readonly<Record<string, string>> = {
  serif: 'serif',
  monospace: '"IBM Plex Mono", monospace',
  'sans-serif': '"Source Sans 3", sans-serif',
  cursive: 'cursive',
  fantasy: 'fantasy',
  'system-ui': 'system-ui',
};

const familiesOf = (list: string): string =>
  list
    .split(',')
    .map((x) => x.trim().replace(/"/g, ''))
    .map((x) => generic[x] ?? `"${x}"`)
    .join(',');

function words(c: CanvasRenderingContext2D, { words: runs = [], font }: Outline, m: Camera, ink: string): void {
  if (!font) return;
  const [a = 1, b = 0, k = 0, d = 1, e = 0, f = 0] = font.matrix;
  c.save();
  c.transform(m.scale, 0, 0, m.scale, m.x, m.y);
  c.transform(a, b, k, d, e, f);
  c.font = `${font.weight} ${font.size}px ${familiesOf(font.family)}, sans-serif`;
  c.textAlign = ({ start: 'left', middle: 'center', end: 'right' } as const)[font.anchor as 'start' | 'middle' | 'end'];
  c.fillStyle = ink;
  for (const run of runs) c.fillText(run.text, run.x, run.y);
  c.restore();
}

const middle = (b: Box, m: Camera): readonly [number, number] => [
  ((b[0] + b[2]) / 2) * m.scale + m.x,
  ((b[1] + b[3]) / 2) * m.scale + m.y,
];

function arrow(
  c: CanvasRenderingContext2D,
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  ink: string,
): void {
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (length < 6) return;
  const ux = (x1 - x0) / length;
  const uy = (y1 - y0) / length;
  const head = Math.min(10, length / 2);
  c.save();
  c.strokeStyle = ink;
  c.fillStyle = ink;
  c.lineWidth = 1.5;
  c.beginPath();
  c.moveTo(x0, y0);
  c.lineTo(x1 - ux * head, y1 - uy * head);
  c.stroke();
  c.beginPath();
  c.moveTo(x1, y1);
  c.lineTo(x1 - ux * head - uy * head * 0.5, y1 - uy * head + ux * head * 0.5);
  c.lineTo(x1 - ux * head + uy * head * 0.5, y1 - uy * head - ux * head * 0.5);
  c.fill();
  c.restore();
}

function mark(
  c: CanvasRenderingContext2D,
  change: Change,
  m: Camera,
  side: 'a' | 'b' | 'both',
  taken: Set<string>,
): void {
  const latest = side === 'b' ? change.boxB : (change.boxB ?? change.boxA);
  const box = side === 'a' ? change.boxA : latest;
  if (!box) return;
  // Places have the number that the list gives them.
  const text = `${signOf[change.kind]}${change.part.kind === 'place' ? (/^\d+/.exec(change.part.name)?.[0] ?? '') : ''}`;
  const x = box[0] * m.scale + m.x;
  const y = box[1] * m.scale + m.y;
  const cells = [0, 1].flatMap((i) => [0, 1].map((j) => `${Math.floor(x / 24) + i},${Math.floor(y / 16) + j}`));
  if (cells.some((cell) => taken.has(cell))) return;
  for (const cell of cells) taken.add(cell);
  c.font = '600 11px "IBM Plex Mono", monospace';
  const w = c.measureText(text).width + 6;
  c.fillStyle = PAPER;
  c.fillRect(x - w, y - 14, w, 14);
  c.strokeStyle = inkOf[change.kind];
  c.fillStyle = inkOf[change.kind];
  c.lineWidth = 1;
  c.strokeRect(x - w + 0.5, y - 13.5, w - 1, 13);
  c.textAlign = 'left';
  c.fillText(text, x - w + 3, y - 3);
}

/** A frame around the chosen change; it draws in from outside when the view has flown there. */
function halo(c: CanvasRenderingContext2D, scene: Scene, m: Camera): void {
  const change = scene.changes.find((x) => x.id === scene.selected);
  if (!change) return;
  for (const box of [change.boxA, change.boxB]) {
    if (!box) continue;
    const grow = 7 + (1 - scene.pulse) * 22;
    c.save();
    c.strokeStyle = inkOf[change.kind];
    c.globalAlpha = 0.4 + 0.6 * scene.pulse;
    c.lineWidth = 2;
    c.strokeRect(
      box[0] * m.scale + m.x - grow,
      box[1] * m.scale + m.y - grow,
      (box[2] - box[0]) * m.scale + 2 * grow,
      (box[3] - box[1]) * m.scale + 2 * grow,
    );
    c.restore();
  }
}
