'use client';
/** One copy of a history to be: what it is, what changed, why it stands where it stands, and what can be said of it. */
import { takenOut, type Arrangement, type ArrangedStep } from '@ovrel/core';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { aside, moved, personOf, proposedAs, saySure, type ChosenFile, type Said } from './chosen-plan.ts';
import { baseName } from './names.ts';
import type { StepLook } from './useStepLooks.ts';

interface Props {
  readonly file: ChosenFile;
  readonly step: ArrangedStep;
  readonly look: StepLook | undefined;
  /** When the file was changed, in milliseconds since 1970. */
  readonly time: number | undefined;
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly busy: boolean;
  readonly onSay: (said: Partial<Said>) => void;
  readonly onArrange: (arrangement: Arrangement) => void;
}

/** As a field for days and hours takes it; in Coordinated Universal Time, as everywhere. */
const asField = (at: number | undefined): string => (at === undefined ? '' : new Date(at).toISOString().slice(0, 16));
const asTime = (text: string): number | undefined => (text === '' ? undefined : Date.parse(`${text}:00Z`));

export function StepDetails({ file, step, look, time, people, busy, onSay, onArrange }: Props): React.ReactNode {
  const { path, parent } = step;
  const said = file.said.get(path) ?? {};
  const at = 'at' in said ? said.at : time;
  const { arrangement } = file;
  const acts = [
    { name: 'Earlier', title: 'Alt ←', to: moved(arrangement, path, -1) },
    { name: 'Later', title: 'Alt →', to: moved(arrangement, path, 1) },
    { name: 'On a line of its own', title: 'Alt ↓', to: aside(arrangement, path) },
    { name: 'Take out', title: undefined, to: takenOut(arrangement, path) },
  ];
  return (
    <section className="ov-plan-details" aria-label={baseName(path)}>
      <div className="ov-plan-large">
        {look?.picture ? <img src={look.picture} alt={`Picture of ${baseName(path)}`} /> : <span>No picture</span>}
      </div>
      <div>
        <h3>{path}</h3>
        <p>
          {parent === null ? 'The first.' : `Came from ${baseName(parent)}.`} {look?.summary}
        </p>
        <p className="ov-quiet">{whyOf(file, step)}</p>
        <div className="ov-plan-acts">
          {acts.map(({ name, title, to }) => (
            <Button
              key={name}
              size="sm"
              variant="outline-secondary"
              title={title}
              disabled={busy || to === arrangement}
              onClick={() => onArrange(to)}
            >
              {name}
            </Button>
          ))}
        </div>
      </div>
      <div className="ov-plan-fields">
        <Form.Group controlId="step-when">
          <Form.Label>When (UTC)</Form.Label>
          <Form.Control
            size="sm"
            type="datetime-local"
            disabled={busy}
            value={asField(at)}
            onChange={(event) => onSay({ at: asTime(event.target.value) })}
          />
        </Form.Group>
        <Form.Group controlId="step-person">
          <Form.Label>Made by</Form.Label>
          <Form.Control
            size="sm"
            list="step-people"
            maxLength={120}
            disabled={busy}
            value={personOf(file, path)}
            onChange={(event) => onSay({ person: event.target.value })}
          />
          <datalist id="step-people">
            {people.map(({ id, name }) => (
              <option key={id} value={name} />
            ))}
          </datalist>
        </Form.Group>
        <Form.Group controlId="step-reason">
          <Form.Label>Why</Form.Label>
          <Form.Control
            size="sm"
            maxLength={2000}
            disabled={busy}
            placeholder={look?.summary ?? 'Stands in its note'}
            value={said.reason ?? ''}
            onChange={(event) => onSay({ reason: event.target.value })}
          />
        </Form.Group>
      </div>
    </section>
  );
}

function whyOf(file: ChosenFile, step: ArrangedStep): string {
  const proposed = proposedAs(file, step);
  return proposed ? `${saySure(proposed)}, by: ${proposed.why.join(', ')}.` : 'Placed here by you.';
}
