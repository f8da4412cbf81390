'use client';
/** One file of a plan: its name, its history as a rail, and the copy that is chosen. */
import type { Arrangement } from '@ovrel/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { asProposed, leftOf, putBack, stepsOf, type ChosenFile, type Said } from './chosen-plan.ts';
import { baseName } from './names.ts';
import { PlanRail } from './PlanRail.tsx';
import { StepDetails } from './StepDetails.tsx';
import type { StepLooks } from './useStepLooks.ts';

interface Props {
  readonly file: ChosenFile;
  readonly looks: StepLooks;
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly busy: boolean;
  readonly timeOf: (path: string) => number | undefined;
  readonly onChange: (file: ChosenFile) => void;
}

export function PlannedHistory({ file, looks, people, busy, timeOf, onChange }: Props): React.ReactNode {
  const [chosen, setChosen] = useState<string>();
  const { planned, name, arrangement } = file;
  const step = stepsOf(file).find(({ path }) => path === chosen);
  const arrange = (next: Arrangement): void => onChange({ ...file, arrangement: next });
  const say = (path: string, said: Partial<Said>): void =>
    onChange({ ...file, said: new Map(file.said).set(path, { ...file.said.get(path), ...said }) });
  const left = leftOf(file);
  const isChanged = JSON.stringify(arrangement) !== JSON.stringify(asProposed(planned).arrangement);
  return (
    <section className="ov-planned" aria-label={planned.name}>
      <div className="ov-planned-head">
        <Form.Group controlId={`name-${planned.name}`}>
          <Form.Label>Name in the project</Form.Label>
          <Form.Control
            value={name}
            maxLength={255}
            disabled={busy}
            onChange={(event) => onChange({ ...file, name: event.target.value })}
          />
        </Form.Group>
        {isChanged && (
          <Button variant="link" disabled={busy} onClick={() => arrange(asProposed(planned).arrangement)}>
            As it was proposed
          </Button>
        )}
      </div>
      {planned.remarks.map((remark) => (
        <div key={remark} className="ov-older">
          {remark}
        </div>
      ))}
      {arrangement.length > 0 ? (
        <PlanRail file={file} looks={looks} chosen={chosen} busy={busy} onChoose={setChosen} onArrange={arrange} />
      ) : (
        <p className="ov-quiet">All its copies are taken out: nothing of it comes in.</p>
      )}
      {step && (
        <StepDetails
          file={file}
          step={step}
          look={looks.lookOf(step)}
          time={timeOf(step.path)}
          people={people}
          busy={busy}
          onSay={(said) => say(step.path, said)}
          onArrange={arrange}
        />
      )}
      {left.length > 0 && (
        <ul className="ov-plan-left" aria-label="Taken out">
          {left.map((path) => (
            <li key={path}>
              {baseName(path)} is taken out.{' '}
              <Button variant="link" disabled={busy} onClick={() => arrange(putBack(file, path))}>
                Put it back
              </Button>
            </li>
          ))}
        </ul>
      )}
      {planned.duplicates.length > 0 && (
        <p className="ov-quiet">
          The same content, not sent:{' '}
          {planned.duplicates.map(({ path, of }) => `${baseName(path)} as ${baseName(of)}`).join(', ')}
        </p>
      )}
    </section>
  );
}
