/** The ways to look at A and B. */
import type { ChangeKind } from '@ovrel/core/contract';

export const looks = ['overlay', 'side', 'curtain', 'blink', 'only'] as const;
export type Look = (typeof looks)[number];

export const lookNames: Readonly<Record<Look, string>> = { overlay: 'Overlay', side: 'Side by side', curtain: 'Curtain', blink: 'Blink', only: 'Changes only' };

export const signOf: Readonly<Record<ChangeKind, string>> = { removed: '−A', added: '+B', changed: '~', moved: '→' };

/** On the drawing's white paper, in either theme. */
export const inkOf: Readonly<Record<ChangeKind, string>> = { removed: '#B45309', added: '#0F766E', changed: '#6D28D9', moved: '#1D4ED8' };

export const legend: readonly (readonly [ChangeKind, string])[] = [
  ['removed', 'only in A, dashed'], ['added', 'only in B, solid'], ['changed', 'changed, double line'], ['moved', 'moved, arrow'],
];
