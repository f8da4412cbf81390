'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { LookButtons, StepButtons } from '../LookButtons.tsx';
import type { Showing } from '../looks.ts';

interface Props {
  readonly look: Showing;
  /** None where there is nothing to compare. */
  readonly looks: readonly Showing[];
  readonly onLook: (look: Showing) => void;
  readonly formulas: boolean;
  readonly onFormulas: (on: boolean) => void;
  readonly onStep: ((by: 1 | -1) => void) | undefined;
  /** Goes to a cell; says whether there is one of this name. */
  readonly onCell: (name: string) => boolean;
}

export function TableBar({ look, looks, onLook, formulas, onFormulas, onStep, onCell }: Props): React.ReactNode {
  const [wrong, setWrong] = useState(false);
  return (
    <div className="ov-bar">
      <LookButtons look={look} looks={looks} onLook={onLook} />
      <Button
        size="sm"
        variant="outline-secondary"
        active={formulas}
        aria-pressed={formulas}
        onClick={() => onFormulas(!formulas)}
      >
        Formulas
      </Button>
      <Form.Control
        size="sm"
        className="ov-to-cell"
        aria-label="Go to cell"
        placeholder="Go to cell"
        isInvalid={wrong}
        onChange={() => setWrong(false)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') setWrong(!onCell(event.currentTarget.value));
        }}
      />
      <span className="is-push" />
      {onStep && <StepButtons onStep={onStep} />}
    </div>
  );
}
