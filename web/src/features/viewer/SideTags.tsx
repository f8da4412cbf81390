'use client';

/** Which version is seen where. */
import type { View } from './state.ts';

interface Props {
  readonly view: View;
  /** While blinking: A is shown. */
  readonly blinkA: boolean;
}

export function SideTags({ view, blinkA }: Props): React.ReactNode {
  const { a, b, comparing, look, waiting } = view;
  const [sayA, sayB] = [`A v${a.number}`, `B v${b.number}`];
  return (
    <>
      {comparing && (look === 'side' || look === 'curtain') && (
        <>
          <span className="ov-tag is-a">{sayA}</span>
          <span className={look === 'side' ? 'ov-tag is-b is-mid' : 'ov-tag is-b'}>{sayB}</span>
        </>
      )}
      {comparing && look === 'blink' && (
        <span className={`ov-tag ${blinkA ? 'is-a' : 'is-b'}`}>{blinkA ? sayA : sayB}</span>
      )}
      {waiting && (
        <span className="ov-tag is-b" role="status">
          Comparing v{a.number} with v{b.number} …
        </span>
      )}
    </>
  );
}
