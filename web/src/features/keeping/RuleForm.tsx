'use client';
/** A keeping rule as sentences that are filled in: one for each kind of version. */
import {
  grains,
  sayGrain,
  saySteps,
  sayVersionKind,
  versionKinds,
  type KeepingRule,
  type KeepingStep,
  type VersionKind,
} from '@ovrel/core/keeping';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';

interface Props {
  readonly rule: KeepingRule;
  readonly disabled: boolean;
  readonly onChange: (rule: KeepingRule) => void;
}

export function RuleForm({ rule, disabled, onChange }: Props): React.ReactNode {
  return (
    <div className="ov-rule">
      {versionKinds.map((kind) => (
        <Sentence
          key={kind}
          kind={kind}
          steps={rule[kind]}
          disabled={disabled}
          onChange={(steps) => onChange({ ...rule, [kind]: steps })}
        />
      ))}
    </div>
  );
}

interface SentenceProps {
  readonly kind: VersionKind;
  readonly steps: readonly KeepingStep[];
  readonly disabled: boolean;
  readonly onChange: (steps: readonly KeepingStep[]) => void;
}

function Sentence({ kind, steps, disabled, onChange }: SentenceProps): React.ReactNode {
  const name = sayVersionKind(kind);
  const last = steps.at(-1);
  const isEndless = last?.days === null;
  const change = (place: number, step: KeepingStep): void => onChange(steps.with(place, step));
  return (
    <fieldset disabled={disabled} aria-label={name} className="ov-rule-sentence">
      <strong>{name}:</strong>
      {steps.map((step, place) => (
        <Step
          key={place}
          name={`${name}, step ${place + 1}`}
          step={step}
          isFirst={place === 0}
          isLast={place === steps.length - 1}
          onChange={(changed) => change(place, changed)}
        />
      ))}
      {!isEndless && <span>{steps.length === 0 ? 'none' : 'then none'}</span>}
      {!disabled && (
        <span className="ov-rule-acts">
          {!isEndless && (
            <Button size="sm" variant="link" onClick={() => onChange([...steps, nextStep(last)])}>
              Add a step
            </Button>
          )}
          {steps.length > 0 && (
            <Button size="sm" variant="link" onClick={() => onChange(steps.slice(0, -1))}>
              Take the last step away
            </Button>
          )}
        </span>
      )}
      <span className="visually-hidden">{`${name}: ${saySteps(steps)}`}</span>
    </fieldset>
  );
}

/** What reasonably follows a step. */
const nextStep = (last: KeepingStep | undefined): KeepingStep => ({
  one: last ? 'day' : 'version',
  days: last?.days ? last.days * 4 : 1,
});

interface StepProps {
  readonly name: string;
  readonly step: KeepingStep;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly onChange: (step: KeepingStep) => void;
}

/** “one a sitting until 30 days old” */
function Step({ name, step, isFirst, isLast, onChange }: StepProps): React.ReactNode {
  const { one, days } = step;
  return (
    <span className="ov-rule-step">
      {!isFirst && <span>then</span>}
      <Form.Select
        size="sm"
        aria-label={`${name}: what is kept`}
        value={one}
        onChange={(e) => onChange({ ...step, one: grains.find((grain) => grain === e.target.value) ?? one })}
      >
        {grains.map((grain) => (
          <option key={grain} value={grain}>
            {sayGrain(grain)}
          </option>
        ))}
      </Form.Select>
      <Form.Select
        size="sm"
        aria-label={`${name}: how long`}
        value={days === null ? 'ever' : 'until'}
        onChange={(e) => onChange({ ...step, days: e.target.value === 'ever' ? null : 30 })}
      >
        <option value="until">until</option>
        {(isLast || days === null) && <option value="ever">for ever</option>}
      </Form.Select>
      {days !== null && (
        <>
          <Form.Control
            size="sm"
            type="number"
            min={1}
            max={36_525}
            aria-label={`${name}: days`}
            value={days}
            onChange={(e) => onChange({ ...step, days: Math.round(Number(e.target.value)) })}
          />
          <span>{days === 1 ? 'day old,' : 'days old,'}</span>
        </>
      )}
    </span>
  );
}
