'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Comparison } from '@ovrel/core/contract';
import { useCompared } from './state/compared.tsx';

/** Filters that are needed less often. */
export function MoreFilters({ comparison }: { readonly comparison: Comparison }): React.ReactNode {
  const { filter, setFilter, drawing, setDrawing } = useCompared();
  const { level, unit, tolerance } = comparison;
  return (
    <div className="ov-more">
      <Form.Label htmlFor="least">Only changes of at least</Form.Label>
      <div className="d-flex gap-2 align-items-center">
        <Form.Control
          id="least"
          size="sm"
          type="number"
          min={0}
          step="any"
          value={filter.least ?? ''}
          onChange={(e) => setFilter({ ...filter, least: e.target.value === '' ? undefined : Number(e.target.value) })}
        />{' '}
        {unit}
      </div>
      <div className="d-flex gap-2 mt-2">
        <Button
          size="sm"
          variant="outline-secondary"
          active={drawing}
          aria-pressed={drawing}
          onClick={() => setDrawing((on) => !on)}
        >
          {drawing ? 'Draw a rectangle on the page …' : 'Only within an area …'}
        </Button>
        {filter.area && (
          <Button size="sm" variant="outline-secondary" onClick={() => setFilter({ ...filter, area: undefined })}>
            Whole page again
          </Button>
        )}
      </div>
      {(level === 'parts' || level === 'solid') && <Tolerance tolerance={tolerance} unit={unit} />}
      <IgnoreFields unit={unit} />
    </div>
  );
}

interface Within {
  readonly unit: string;
  readonly tolerance: number;
}

/** Distance within which places count as the same. */
function Tolerance({ unit, tolerance }: Within): React.ReactNode {
  const { setTolerance } = useCompared();
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-center mt-2"
      onSubmit={(e) => {
        e.preventDefault();
        const said = Number(new FormData(e.currentTarget).get('tolerance'));
        setTolerance(said > 0 ? said : undefined);
      }}
    >
      <Form.Label htmlFor="tolerance" className="mb-0 w-100">
        The same place within
      </Form.Label>
      <Form.Control
        id="tolerance"
        key={tolerance}
        name="tolerance"
        size="sm"
        type="number"
        min={0}
        step="any"
        style={{ width: 92 }}
        defaultValue={Number(tolerance.toPrecision(3))}
      />{' '}
      {unit}
      <Button title="Taken to the nearest of 1, 2, 5, 10, 20 …" type="submit" size="sm" variant="outline-secondary">
        Compare so
      </Button>
    </form>
  );
}

/** Sorts of difference that can be ignored as a whole. */
const ignorable = [
  ['style', 'Colours, pens and line types'],
  ['formatting', 'Fonts and sizes of texts'],
  ['order', 'Drawing order'],
  ['numbering', 'Numbering (ids and handles)'],
] as const;

function IgnoreFields({ unit }: { readonly unit: string }): React.ReactNode {
  const { ignore, setIgnore } = useCompared();
  return (
    <fieldset className="mt-3">
      <legend>Ignore, in every comparison that you look at</legend>
      {ignorable.map(([what, label]) => (
        <Form.Check
          key={what}
          id={`ignore-${what}`}
          label={label}
          checked={ignore[what]}
          onChange={(e) => setIgnore({ ...ignore, [what]: e.target.checked })}
        />
      ))}
      <div className="d-flex gap-2 align-items-center mt-1">
        <Form.Label htmlFor="below" className="mb-0">
          Moves smaller than
        </Form.Label>
        <Form.Control
          id="below"
          size="sm"
          type="number"
          min={0}
          step="any"
          style={{ width: 84 }}
          value={ignore.below ?? ''}
          onChange={(e) => setIgnore({ ...ignore, below: e.target.value === '' ? null : Number(e.target.value) })}
        />{' '}
        {unit}
      </div>
    </fieldset>
  );
}
