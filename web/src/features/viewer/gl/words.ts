/** Words of a scene, drawn by a 2D context over what the graphics processor draws. */
import type { SceneHead } from '@ovrel/core/scene';
import type { Camera } from '../camera.ts';

/** Words smaller than this many CSS pixels are not drawn. */
const LEGIBLE = 3.5;
const MOST_WORDS = 3000;
const GHOST = 'rgba(23, 33, 43, 0.35)';

const families: Readonly<Record<string, string>> = {
  monospace: '"IBM Plex Mono", monospace',
  serif: 'serif',
};
const OTHER = '"Source Sans 3", sans-serif';

interface Room {
  readonly width: number;
  readonly height: number;
  readonly ghost: boolean;
}

/** Draws the words that can be read. */
export function drawWords(
  c: CanvasRenderingContext2D,
  { origin, styles, words }: SceneHead,
  hidden: ReadonlySet<number>,
  m: Camera,
  { width, height, ghost }: Room,
): void {
  const [ox = 0, oy = 0] = origin;
  let left = MOST_WORDS;
  for (const w of words) {
    const style = styles[w.style];
    const [a = 1, b = 0, cc = 0, d = 1, e = 0, f = 0] = w.matrix;
    if (!style || hidden.has(style.layer)) continue;
    const rise = Math.hypot(cc, d) * w.size * m.scale;
    if (rise < LEGIBLE) continue;
    const x = (a * w.x + cc * w.y + e + ox) * m.scale + m.x;
    const y = (b * w.x + d * w.y + f + oy) * m.scale + m.y;
    const room = w.text.length * rise;
    if (x < -room || x > width + room || y < -room || y > height + room) continue;
    left -= 1;
    if (left < 0) return;
    c.save();
    c.transform(m.scale, 0, 0, m.scale, ox * m.scale + m.x, oy * m.scale + m.y);
    c.transform(a, b, cc, d, e, f);
    c.font = `${w.weight} ${w.size}px ${families[w.family] ?? OTHER}`;
    c.textAlign = w.anchor === 'middle' ? 'center' : w.anchor;
    c.fillStyle = ghost ? GHOST : style.colour;
    c.fillText(w.text, w.x, w.y);
    c.restore();
  }
}
