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
      {level === 'parts' && <Tolerance tolerance={tolerance} unit={unit} />}
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
      <Button type="submit" size="sm" variant="outline-secondary">
        Compare so
      </Button>
    </form>
  );
}

function IgnoreFields({ unit }: { readonly unit: string }): React.ReactNode {
  const { ignore, setIgnore } = useCompared();
  return (
    <fieldset className="mt-3">
      <legend>Ignore, in every comparison that you look at</legend>
      <Form.Check
        id="ignore-style"
        label="Colours, pens and line types"
        checked={ignore.style}
        onChange={(e) => setIgnore({ ...ignore, style: e.target.checked })}
      />
      <Form.Check
        id="ignore-formatting"
        label="Fonts and sizes of texts"
        checked={ignore.formatting}
        onChange={(e) => setIgnore({ ...ignore, formatting: e.target.checked })}
      />
      <Form.Check
        id="ignore-order"
        label="Drawing order"
        checked={ignore.order}
        onChange={(e) => setIgnore({ ...ignore, order: e.target.checked })}
      />
      <Form.Check
        id="ignore-numbering"
        label="Numbering (ids and handles)"
        checked={ignore.numbering}
        onChange={(e) => setIgnore({ ...ignore, numbering: e.target.checked })}
      />
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
