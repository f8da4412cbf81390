'use client';

import Button from 'react-bootstrap/Button';
import { lookNames, type Showing } from './looks.ts';

interface LooksProps {
  readonly look: Showing;
  readonly looks: readonly Showing[];
  readonly onLook: (look: Showing) => void;
}

/** Ways of looking at two versions, of which one is on. */
export const LookButtons = ({ look, looks, onLook }: LooksProps): React.ReactNode =>
  looks.map((one) => (
    <Button
      key={one}
      size="sm"
      variant="outline-secondary"
      active={look === one}
      aria-pressed={look === one}
      onClick={() => onLook(one)}
    >
      {lookNames[one]}
    </Button>
  ));

/** From change to change. */
export const StepButtons = ({ onStep }: { readonly onStep: (by: 1 | -1) => void }): React.ReactNode => (
  <>
    <Button size="sm" variant="outline-secondary" onClick={() => onStep(-1)}>
      Previous change
    </Button>
    <Button size="sm" variant="outline-secondary" onClick={() => onStep(1)}>
      Next change
    </Button>
  </>
);
