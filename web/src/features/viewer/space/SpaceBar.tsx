'use client';

/** What can be done with a model in view. */
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { lookNames } from '../looks.ts';
import type { View } from '../state.ts';
import { standardViews } from './orbit.ts';
import { spaceLooks } from './shown.ts';
import type { SpaceInView } from './useSpaceStage.ts';

/** What can be switched on, with the key that does it. */
export interface Switch {
  readonly name: string;
  /** In the list of keys. */
  readonly says: string;
  readonly key: string;
  readonly isOn: boolean;
  readonly toggle: () => void;
}

interface Props {
  readonly view: View;
  readonly space: SpaceInView;
  readonly switches: readonly Switch[];
  readonly parallel: boolean;
  readonly onParallel: () => void;
  readonly hidden: number;
  readonly onShowAll: () => void;
}

/** Among the directions: how lines run, whatever the direction. */
const PARALLEL = 'parallel';

export function SpaceBar({ view, space, switches, parallel, onParallel, hidden, onShowAll }: Props): React.ReactNode {
  const { comparing } = view;
  return (
    <div className="ov-bar">
      {comparing && <Looks view={view} />}
      <Form.Select
        size="sm"
        className="ov-pages"
        aria-label="Look from"
        value=""
        onChange={(e) => (e.target.value === PARALLEL ? onParallel() : space.from(e.target.value))}
      >
        <option value="">Look from …</option>
        <option value={PARALLEL}>{parallel ? 'As an eye sees it' : 'With parallel lines'}</option>
        {standardViews.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Form.Select>
      {switches.map(({ name, key, isOn, toggle }) => (
        <Button
          key={name}
          size="sm"
          variant="outline-secondary"
          active={isOn}
          aria-pressed={isOn}
          title={`Key ${key}`}
          onClick={toggle}
        >
          {name}
        </Button>
      ))}
      {hidden > 0 && (
        <Button size="sm" variant="outline-secondary" onClick={onShowAll}>
          Show all ({hidden} hidden)
        </Button>
      )}
      <span className="is-push" />
      {comparing && view.listed.length > 0 && <Steps view={view} />}
      <Button
        size="sm"
        variant="outline-secondary"
        aria-label="Further away"
        title="Key −"
        onClick={() => space.zoom(1.25)}
      >
        −
      </Button>
      <Button size="sm" variant="outline-secondary" aria-label="Closer" title="Key +" onClick={() => space.zoom(0.8)}>
        +
      </Button>
      <Button size="sm" variant="outline-secondary" title="Key 0" onClick={space.whole}>
        Whole model
      </Button>
    </div>
  );
}

const Steps = ({ view }: { readonly view: View }): React.ReactNode => (
  <>
    <Button
      size="sm"
      variant="outline-secondary"
      title="Key P"
      aria-label="Previous change"
      onClick={() => view.stepChange(-1)}
    >
      Previous
    </Button>
    <Button
      size="sm"
      variant="outline-secondary"
      title="Key N"
      aria-label="Next change"
      onClick={() => view.stepChange(1)}
    >
      Next
    </Button>
  </>
);

const Looks = ({ view: { look, move } }: { readonly view: View }): React.ReactNode =>
  spaceLooks.map((l, i) => (
    <Button
      key={l}
      size="sm"
      variant="outline-secondary"
      active={look === l}
      aria-pressed={look === l}
      title={`Key ${i + 1}`}
      onClick={() => move({ look: l })}
    >
      {lookNames[l]}
    </Button>
  ));
