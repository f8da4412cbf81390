'use client';

/** How versions and what binds them look on the rail. */
import { sayMoment } from '../words.ts';
import type { Arc, Glyph, Stop } from './layout.ts';

/** Where the line of versions runs, in pixels from the top. */
export const AXIS = 62;

export function ArcLine({ from, to, says }: Arc): React.ReactNode {
  const rise = Math.min(44, 14 + Math.abs(to - from) / 8);
  const top = AXIS - 14;
  return (
    <g role="img" aria-label={says}>
      <title>{says}</title>
      <path className="is-arc" d={`M${from} ${top} C${from} ${top - rise} ${to} ${top - rise} ${to} ${top}`} />
      <path className="is-arrow" d={`M${to} ${top + 4} l-4 -8 h8 z`} />
    </g>
  );
}

/** `n`: versions that a sitting stands for. */
export function shapeOf(glyph: Glyph, n: number): React.ReactNode {
  switch (glyph) {
    case 'check-in':
      return <rect className="shape" x={-6} y={-6} width={12} height={12} />;
    case 'proposed':
      return <rect className="shape hollow is-proposed" x={-6} y={-6} width={12} height={12} />;
    case 'autosave':
      return <line className="shape" y1={-6} y2={6} />;
    case 'sitting':
      return <rect className="shape" x={-Math.min(18, 6 + n)} y={-3} width={2 * Math.min(18, 6 + n)} height={6} />;
    case 'backup':
      return <path className="shape hollow" d="M0 -8 L8 0 L0 8 L-8 0 Z" />;
    case 'keeper':
      return (
        <>
          <circle className="shape hollow" r={9} />
          <rect className="shape" x={-4} y={-4} width={8} height={8} />
        </>
      );
  }
}

export const glyphWords: Readonly<Record<Glyph, string>> = {
  'check-in': 'check-in',
  proposed: 'about to be done',
  autosave: 'autosave',
  sitting: 'sitting',
  backup: 'backup',
  keeper: 'keeper',
};

export function StopGlyph({
  stop,
  seen,
  goes,
  onChoose,
  onPeek,
}: {
  stop: Stop;
  seen: boolean;
  /** When it goes by the keeping rules, in words. */
  goes: string | undefined;
  onChoose: (shift: boolean) => void;
  onPeek: (stop: Stop | undefined) => void;
}): React.ReactNode {
  const { version: v, glyph } = stop;
  return (
    <g
      className={`is-glyph${seen ? ' is-seen' : ''}`}
      transform={`translate(${stop.x} ${AXIS})`}
      role="button"
      tabIndex={0}
      aria-current={seen || undefined}
      aria-label={`v${v.number}, ${glyphWords[glyph]}${v.title ? ` “${v.title}”` : ''} by ${v.by}, ${sayMoment(v.at)}${goes === undefined ? '' : `, ${goes}`}`}
      onClick={(e) => onChoose(e.shiftKey)}
      onKeyDown={(e) => {
        if (e.key === 'Enter' || e.key === ' ') {
          e.preventDefault();
          onChoose(e.shiftKey);
        }
      }}
      onPointerEnter={() => onPeek(stop)}
      onPointerLeave={() => onPeek(undefined)}
      onFocus={(e) => e.currentTarget.matches(':focus-visible') && onPeek(stop)}
      onBlur={() => onPeek(undefined)}
    >
      <rect className="hit" x={-14} y={-14} width={28} height={28} />
      {shapeOf(glyph, stop.sitting.length)}
      {goes !== undefined && <path className="is-going" d="M-10 12 h20" />}
      {v.title && (
        <text className="is-title" x={-9} y={-18} textAnchor="start">
          {v.title.length > 24 ? `${v.title.slice(0, 23)}…` : v.title}
        </text>
      )}
      <text className="is-number" y={28} textAnchor="middle">
        v{v.number}
      </text>
    </g>
  );
}
