'use client';

import { sayMoment } from '../words.ts';
import { AXIS, glyphWords, shapeOf } from './glyphs.tsx';
import type { Lane, LaneLayout, LaneStop } from './lanes.ts';

interface Props {
  readonly layout: LaneLayout;
  /** What is in sight, in pixels. */
  readonly from: number;
  readonly to: number;
  readonly onFold: (line: string) => void;
  /** `compare`: with the version that is shown, instead of going there. */
  readonly onChoose: (line: string, version: string, compare: boolean) => void;
}

/** The other lines of the file, beneath the one that is shown. */
export const Lanes = ({ layout, ...rest }: Props): React.ReactNode =>
  layout.lanes.map((lane) => <OneLane key={lane.id} lane={lane} {...rest} />);

type LaneProps = Omit<Props, 'layout'> & { readonly lane: Lane };

function OneLane({ lane, from, to, onFold, onChoose }: LaneProps): React.ReactNode {
  const { y, stops, leaves, joins, folded, name, closed, versions } = lane;
  const [first] = stops;
  if (!first) return null;
  const last = folded ? first : (stops.at(-1) ?? first);
  const count = versions === 1 ? '1 version' : `${versions.toLocaleString('en')} versions`;
  return (
    <g className={closed ? 'is-lane is-closed' : 'is-lane'} role="group" aria-label={`Line ${name}`}>
      {leaves && <path className="is-turn" d={turnDown(leaves.from, leaves.to, y)} />}
      <line className="is-axis" x1={first.x} x2={last.x} y1={y} y2={y} />
      {!folded && joins.map((turn) => <path key={turn.to} className="is-turn" d={turnUp(turn.from, turn.to, y)} />)}
      <text
        className="is-lane-name"
        x={first.x - 8}
        y={y - 12}
        role="button"
        tabIndex={0}
        aria-expanded={!folded}
        onClick={() => onFold(lane.id)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') onFold(lane.id);
        }}
      >
        {`${name}${closed ? ', closed' : ''}${folded ? `: ${count}` : ''}`}
      </text>
      {(folded ? [last] : stops)
        .filter((stop) => stop.x >= from && stop.x <= to)
        .map((stop) => (
          <LaneGlyph key={stop.version.id} lane={lane} stop={stop} onChoose={onChoose} />
        ))}
    </g>
  );
}

function LaneGlyph({
  lane,
  stop: { x, version: v, glyph, sitting },
  onChoose,
}: {
  readonly lane: Lane;
  readonly stop: LaneStop;
  readonly onChoose: Props['onChoose'];
}): React.ReactNode {
  return (
    <g
      className="is-glyph"
      transform={`translate(${x} ${lane.y})`}
      role="button"
      tabIndex={0}
      aria-label={`${lane.name} v${v.number}, ${glyphWords[glyph]} by ${v.by}, ${sayMoment(v.at)}`}
      onClick={(e) => onChoose(lane.id, v.id, e.shiftKey)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        onChoose(lane.id, v.id, e.shiftKey);
      }}
    >
      <title>Shift: compare with what is shown</title>
      <rect className="hit" x={-12} y={-12} width={24} height={24} />
      <g transform="scale(0.85)">{shapeOf(glyph, sitting.length)}</g>
      <text className="is-number" y={20} textAnchor="middle">
        v{v.number}
      </text>
    </g>
  );
}

const turnDown = (from: number, to: number, y: number): string =>
  `M${from} ${AXIS + 8} L${from} ${y - 24} Q${from} ${y} ${Math.min(to, from + 24)} ${y} L${to} ${y}`;

const turnUp = (from: number, to: number, y: number): string =>
  `M${from} ${y} L${Math.max(from, to - 24)} ${y} Q${to} ${y} ${to} ${y - 24} L${to} ${AXIS + 12}`;
