/** The ways to look at A and B. */
import type { ChangeKind } from '@ovrel/core/contract';

export const looks = ['overlay', 'side', 'curtain', 'blink', 'only', 'heat'] as const;
export type Showing = (typeof looks)[number];

export const lookNames: Readonly<Record<Showing, string>> = {
  overlay: 'Overlay',
  side: 'Side by side',
  curtain: 'Curtain',
  blink: 'Blink',
  only: 'Changes only',
  heat: 'Heat',
};

/** Of pictures alone: how much each place differs. */
export const looksFor = (pixels: boolean): readonly Showing[] => (pixels ? looks : looks.filter((l) => l !== 'heat'));

/** Colours of differences, from none to all: lighter means more, and so it does in grey. */
const heatStops: readonly (readonly [at: number, r: number, g: number, b: number])[] = [
  [0, 16, 20, 38],
  [0.12, 44, 52, 110],
  [0.3, 112, 50, 130],
  [0.5, 190, 66, 96],
  [0.72, 236, 128, 62],
  [0.88, 250, 200, 90],
  [1, 255, 250, 220],
];
/** CIEDE2000 at the end of the scale. */
export const HEAT_MOST = 40;

export function heatColour(difference: number): readonly [number, number, number] {
  // The lower half of the scale has the first fifth of the differences, where eyes tell most.
  const t = Math.sqrt(Math.min(1, Math.max(0, difference / HEAT_MOST)));
  const k = Math.max(
    1,
    heatStops.findIndex(([at]) => at >= t),
  );
  const [p, ...low] = heatStops[k - 1] as (typeof heatStops)[number];
  const [q, ...high] = heatStops[k] as (typeof heatStops)[number];
  const f = (t - p) / (q - p);
  return [0, 1, 2].map((c) => Math.round((low[c] as number) + f * ((high[c] as number) - (low[c] as number)))) as [
    number,
    number,
    number,
  ];
}

export const signOf: Readonly<Record<ChangeKind, string>> = { removed: '−A', added: '+B', changed: '~', moved: '→' };

/** On the drawing's white paper, in either theme. */
export const inkOf: Readonly<Record<ChangeKind, string>> = {
  removed: '#B45309',
  added: '#0F766E',
  changed: '#6D28D9',
  moved: '#1D4ED8',
};

export const legend: readonly (readonly [ChangeKind, string])[] = [
  ['removed', 'only in A, dashed'],
  ['added', 'only in B, solid'],
  ['changed', 'changed, double line'],
  ['moved', 'moved, arrow'],
];
