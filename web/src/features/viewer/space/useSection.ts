import { useMemo, useState } from 'react';
import type { Plane } from '@ovrel/core/space';
import type { Box3 } from './orbit.ts';

/** A plane through a model: level, or upright and turned about the vertical. */
export interface Section {
  readonly isOn: boolean;
  readonly level: boolean;
  /** Of an upright plane: degrees from the x axis. */
  readonly angle: number;
  /** From one end of the model to the other, 0 to 1. */
  readonly share: number;
  /** The other side is taken away. */
  readonly flipped: boolean;
}

const first: Section = { isOn: false, level: true, angle: 0, share: 0.5, flipped: false };

export interface SectionInView {
  readonly section: Section;
  readonly set: (change: Partial<Section>) => void;
  /** What is kept has normal · p ≤ at; in the coordinates of the scene. Undefined where nothing is cut. */
  readonly plane: Plane | undefined;
  /** Where it cuts, along its direction, in the coordinates of the model. */
  readonly at: number;
}

export function useSection(box: Box3 | undefined, origin: readonly number[]): SectionInView {
  const [section, setSection] = useState(first);
  const plane = useMemo(() => (section.isOn && box ? planeOf(section, box) : undefined), [section, box]);
  const [x = 0, y = 0, z = 0] = origin;
  const [nx, ny, nz] = plane?.normal ?? [0, 0, 0];
  const sign = section.flipped ? -1 : 1;
  return {
    section,
    set: (change) => setSection((before) => ({ ...before, ...change })),
    plane,
    at: plane ? sign * (plane.at + nx * x + ny * y + nz * z) : 0,
  };
}

/** Pure. */
export function planeOf({ level, angle, share, flipped }: Section, box: Box3): Plane {
  const turn = (angle * Math.PI) / 180;
  const [nx, ny, nz] = level ? [0, 0, 1] : [Math.sin(turn), -Math.cos(turn), 0];
  const heights = [0, 1, 2, 3, 4, 5, 6, 7].map(
    (k) => nx * box[k & 1 ? 3 : 0] + ny * box[k & 2 ? 4 : 1] + nz * box[k & 4 ? 5 : 2],
  );
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const at = low + share * (high - low);
  const sign = flipped ? -1 : 1;
  return { normal: [sign * nx + 0, sign * ny + 0, sign * nz + 0], at: sign * at };
}
