'use client';

/** What the colours and signs on a model mean. */
import type { ChangeKind } from '@ovrel/core/contract';
import { signOf } from '../looks.ts';
import type { View } from '../state.ts';

interface Props {
  readonly view: View;
  /** The largest distance, where the scale ends. */
  readonly most: number;
  readonly unit: string;
}

/** Edges tell sides apart where colours do not. */
const says: readonly (readonly [ChangeKind, string])[] = [
  ['removed', 'only in A: see-through, dashed edges'],
  ['added', 'only in B: solid'],
  ['moved', 'moved: dashed where it was'],
];

export function SpaceLegend({ view: { look }, most, unit }: Props): React.ReactNode {
  const far = [Number(most.toPrecision(3)), unit === 'user unit' ? '' : unit].join(' ').trim();
  const isLaid = look === 'overlay' || look === 'only';
  return (
    <div className="ov-legend" aria-label="Legend">
      {(isLaid || look === 'heat') && (
        <span className="ov-heat">
          {isLaid && <span className="ov-sign ov-changed">{signOf.changed}</span>} {far} inwards{' '}
          <span className="is-deviation" /> {far} outwards
        </span>
      )}
      {isLaid &&
        says.map(([kind, text]) => (
          <span key={kind}>
            <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {text}
          </span>
        ))}
      {look === 'overlay' && <span className="ov-quiet">faint: untouched</span>}
      {!isLaid && look !== 'heat' && <span className="ov-quiet">Both as they are in their files.</span>}
    </div>
  );
}
