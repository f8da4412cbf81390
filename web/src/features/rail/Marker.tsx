'use client';

import { AXIS } from './glyphs.tsx';
import type { Mark } from './layout.ts';

const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };

interface MarkerProps {
  readonly name: 'a' | 'b';
  /** Its place among the versions. */
  readonly at: number;
  readonly versions: readonly Mark[];
  readonly together: boolean;
  readonly x: number;
  readonly onGrab: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onDrag: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onDrop: (e: React.PointerEvent<SVGGElement>) => void;
  readonly onStep: (by: number) => void;
}

/** A or B: dragged, or moved by the arrow keys. */
export function Marker({
  name,
  at,
  versions,
  together,
  x,
  onGrab,
  onDrag,
  onDrop,
  onStep,
}: MarkerProps): React.ReactNode {
  // Together the two markers stand beside one another, A on the left.
  const aside = name === 'a' ? -12 : 12;
  const shift = together ? aside : 0;
  const number = versions[at]?.number;
  const letter = name.toUpperCase();
  return (
    <g
      className={`is-marker is-${name}`}
      transform={`translate(${x} 0)`}
      role="slider"
      tabIndex={0}
      aria-label={`Marker ${letter}`}
      aria-valuemin={versions[0]?.number}
      aria-valuemax={versions.at(-1)?.number}
      aria-valuenow={number}
      aria-valuetext={`v${number ?? ''}`}
      onPointerDown={onGrab}
      onPointerMove={onDrag}
      onPointerUp={onDrop}
      onPointerCancel={onDrop}
      onKeyDown={(e) => {
        const by = STEPS[e.key];
        if (by) {
          e.preventDefault();
          e.stopPropagation();
          onStep(by);
        }
      }}
    >
      <title>{`Marker ${letter}: drag to another version to compare`}</title>
      <line x1={shift} x2={shift} y1={AXIS + 34} y2={AXIS + 40} />
      <rect x={shift - 11} y={AXIS + 38} width={22} height={22} />
      <text x={shift} y={AXIS + 53} textAnchor="middle">
        {letter}
      </text>
    </g>
  );
}
