/** CSS colours in one spelling, so that "red", "#F00" and "rgb(255,0,0)" are the same (CSS Color 4 §4–6). */
import names from 'color-name';

const hex = (n: number): string =>
  Math.max(0, Math.min(255, Math.round(n)))
    .toString(16)
    .padStart(2, '0');

/** Lower-case #rrggbb or #rrggbbaa; anything that is not a plain colour comes back trimmed and in lower case. */
export function normaliseColour(text: string): string {
  const t = text.trim().toLowerCase();
  const named = (names as Record<string, readonly [number, number, number]>)[t];
  if (named) return `#${named.map(hex).join('')}`;
  if (/^#[0-9a-f]{3,4}$/.test(t)) return `#${t.slice(1).replace(/./g, '$&$&')}`.replace(/^(#.{6})ff$/, '$1');
  if (/^#[0-9a-f]{8}$/.test(t)) return t.replace(/ff$/, '');
  const call = /^(rgba?|hsla?)\(([^)]*)\)$/.exec(t);
  if (!call) return t;
  const v = (call[2] ?? '').split(/[\s,/]+/).filter(Boolean);
  const rgb = call[1]?.startsWith('rgb') ? v.slice(0, 3).map((x) => part(x, 255)) : fromHsl(v);
  const alpha = v[3] === undefined ? 1 : part(v[3], 1);
  if (rgb.length < 3 || rgb.some((n) => !Number.isFinite(n))) return t;
  return `#${rgb.map(hex).join('')}${alpha < 1 ? hex(alpha * 255) : ''}`;
}

const part = (text: string, full: number): number =>
  text.endsWith('%') ? (parseFloat(text) / 100) * full : parseFloat(text);

function fromHsl(v: readonly string[]): number[] {
  const h = parseFloat(v[0] ?? '');
  const s = part(v[1] ?? '', 1);
  const l = part(v[2] ?? '', 1);
  const channel = (n: number): number => {
    const k = (n + h / 30) % 12;
    return 255 * (l - s * Math.min(l, 1 - l) * Math.max(-1, Math.min(k - 3, 9 - k, 1)));
  };
  return [channel(0), channel(8), channel(4)];
}
