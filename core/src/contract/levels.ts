/** How closely contents are looked at, and what follows for whoever shows and tells it. A new level is one entry. */

export interface LevelCard {
  /** As in "compared …". */
  readonly how: string;
  /** Over the list of changes one by one. */
  readonly heading?: string;
  /** What a content of it is counted in, and where a look has the number. */
  readonly counts?: readonly [name: string, of: 'parts' | 'lines'];
  /** Told by causes; what is not, is listed as it is. */
  readonly hasCauses: boolean;
  /** Changes can be picked, where the format is written piece by piece. */
  readonly hasPieces: boolean;
  /** A version is seen by itself while it is still being compared. */
  readonly seenAlone: boolean;
}

export const levels = ['solid', 'parts', 'cells', 'pixels', 'text', 'bytes'] as const;
export type Level = (typeof levels)[number];

export const levelCards: Readonly<Record<Level, LevelCard>> = {
  solid: {
    how: 'part by part and surface by surface',
    heading: 'Part by part',
    counts: ['Parts', 'parts'],
    hasCauses: true,
    hasPieces: true,
    seenAlone: true,
  },
  parts: {
    how: 'part by part',
    heading: 'Part by part',
    counts: ['Parts', 'parts'],
    hasCauses: true,
    hasPieces: true,
    seenAlone: true,
  },
  cells: {
    how: 'cell by cell',
    heading: 'Cell by cell',
    counts: ['Cells', 'parts'],
    hasCauses: true,
    hasPieces: true,
    seenAlone: true,
  },
  pixels: { how: 'pixel by pixel', heading: 'Place by place', hasCauses: true, hasPieces: true, seenAlone: false },
  text: { how: 'line by line', counts: ['Lines', 'lines'], hasCauses: false, hasPieces: true, seenAlone: false },
  bytes: { how: 'byte by byte', hasCauses: false, hasPieces: false, seenAlone: false },
};
