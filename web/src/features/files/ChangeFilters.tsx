'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { changeKinds, type Change, type ChangeKind } from '@ovrel/core/contract';
import type { Ignore } from '../../contract/preferences.ts';
import { signOf } from '../viewer/looks.ts';
import { kindNames } from './ChangeList.tsx';
import { blockOf, tally, type Filter } from './filter.ts';
import type { WhoChanged } from './useWho.ts';

interface Props {
  readonly changes: readonly Change[];
  readonly unit: string;
  readonly who: WhoChanged;
  readonly filter: Filter;
  readonly onFilter: (filter: Filter) => void;
  readonly ignore: Ignore;
  readonly onIgnore: (ignore: Ignore) => void;
  readonly ignored: number;
  /** Distance within which places count as the same; undefined where there are no places. */
  readonly tolerance: number | undefined;
  readonly onTolerance: (tolerance: number | undefined) => void;
  /** True while a rectangle is being drawn on the page. */
  readonly drawing: boolean;
  readonly onDraw: () => void;
}

export function ChangeFilters({
  changes,
  unit,
  who,
  filter,
  onFilter,
  ignore,
  onIgnore,
  ignored,
  tolerance,
  onTolerance,
  drawing,
  onDraw,
}: Props): React.ReactNode {
  const [more, setMore] = useState(false);
  const layers = tally(
    changes.flatMap((c) => [
      ...new Set([c.partA?.category, c.partB?.category].filter((x): x is string => x !== undefined)),
    ]),
  );
  const aspects = tally(changes.flatMap((c) => [...new Set(c.what.map((w) => w.aspect))]));
  const blocks = tally(changes.flatMap((c) => blockOf(c) ?? []));
  const pages = tally(changes.map((c) => c.part.page));
  const touchers = changes.flatMap((c) => who.of(c.id));
  const names = new Map(touchers.map((p) => [p.id, p.name]));
  const people = tally(touchers.map((p) => p.id));
  const kinds = new Map(tally(changes.map((c) => c.kind)));
  const toggle = (kind: ChangeKind): void => {
    const without = new Set(filter.without);
    if (!without.delete(kind)) without.add(kind);
    onFilter({ ...filter, without });
  };
  return (
    <>
      <div className="ov-chips" role="group" aria-label="Kinds of change">
        {changeKinds
          .filter((k) => kinds.get(k))
          .map((kind) => (
            <Button
              key={kind}
              variant="outline-secondary"
              active={!filter.without.has(kind)}
              aria-pressed={!filter.without.has(kind)}
              onClick={() => toggle(kind)}
            >
              <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {kindNames[kind]}{' '}
              <span className="ov-mono">{(kinds.get(kind) ?? 0).toLocaleString('en')}</span>
            </Button>
          ))}
      </div>
      <div className="ov-filters">
        <Choice
          label="Layer"
          all="All layers"
          none="No layer"
          values={layers}
          value={filter.category}
          onChange={(category) => onFilter({ ...filter, category })}
        />
        <Choice
          label="What of it changed"
          all="Any difference"
          none=""
          values={aspects}
          value={filter.aspect}
          onChange={(aspect) => onFilter({ ...filter, aspect })}
        />
        <Choice
          label="Changed by"
          all="By anybody"
          none=""
          values={people}
          names={names}
          value={filter.person}
          onChange={(person) => onFilter({ ...filter, person })}
        />
        {more && (
          <Choice
            label="Block"
            all="All blocks and others"
            none=""
            values={blocks}
            least={1}
            value={filter.block}
            onChange={(block) => onFilter({ ...filter, block })}
          />
        )}
        {more && (
          <Choice
            label="On page"
            all="All pages"
            none=""
            values={pages}
            value={filter.page}
            onChange={(page) => onFilter({ ...filter, page })}
          />
        )}
      </div>
      {more && (
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
              onChange={(e) =>
                onFilter({ ...filter, least: e.target.value === '' ? undefined : Number(e.target.value) })
              }
            />{' '}
            {unit}
          </div>
          <div className="d-flex gap-2 mt-2">
            <Button size="sm" variant="outline-secondary" active={drawing} aria-pressed={drawing} onClick={onDraw}>
              {drawing ? 'Draw a rectangle on the page …' : 'Only within an area …'}
            </Button>
            {filter.area && (
              <Button size="sm" variant="outline-secondary" onClick={() => onFilter({ ...filter, area: undefined })}>
                Whole page again
              </Button>
            )}
          </div>
          {tolerance !== undefined && (
            <form
              className="d-flex flex-wrap gap-2 align-items-center mt-2"
              onSubmit={(e) => {
                e.preventDefault();
                const said = Number(new FormData(e.currentTarget).get('tolerance'));
                onTolerance(said > 0 ? said : undefined);
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
          )}
          <fieldset className="mt-3">
            <legend>Ignore, in every comparison that you look at</legend>
            <Form.Check
              id="ignore-style"
              label="Colours, pens and line types"
              checked={ignore.style}
              onChange={(e) => onIgnore({ ...ignore, style: e.target.checked })}
            />
            <Form.Check
              id="ignore-formatting"
              label="Fonts and sizes of texts"
              checked={ignore.formatting}
              onChange={(e) => onIgnore({ ...ignore, formatting: e.target.checked })}
            />
            <Form.Check
              id="ignore-order"
              label="Drawing order"
              checked={ignore.order}
              onChange={(e) => onIgnore({ ...ignore, order: e.target.checked })}
            />
            <Form.Check
              id="ignore-numbering"
              label="Numbering (ids and handles)"
              checked={ignore.numbering}
              onChange={(e) => onIgnore({ ...ignore, numbering: e.target.checked })}
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
                onChange={(e) => onIgnore({ ...ignore, below: e.target.value === '' ? null : Number(e.target.value) })}
              />{' '}
              {unit}
            </div>
          </fieldset>
        </div>
      )}
      <div className="d-flex gap-2 align-items-baseline mt-2">
        <Button size="sm" variant="link" className="p-0" aria-expanded={more} onClick={() => setMore((x) => !x)}>
          {more ? 'Fewer filters' : 'More filters, and what to ignore'}
        </Button>
        {more && who.sentence && <span className="ov-quiet">{who.sentence}</span>}
        {ignored > 0 && <span className="ov-quiet">{ignored.toLocaleString('en')} ignored</span>}
      </div>
    </>
  );
}

function Choice({
  label,
  all,
  none,
  values,
  value,
  onChange,
  least = 2,
  names,
}: {
  label: string;
  all: string;
  none: string;
  values: readonly [string, number][];
  names?: ReadonlyMap<string, string>;
  value: string | undefined;
  onChange: (value: string | undefined) => void;
  least?: number;
}): React.ReactNode {
  if (values.length < least && value === undefined) return null;
  return (
    <Form.Select
      size="sm"
      aria-label={label}
      value={value ?? '*'}
      onChange={(e) => onChange(e.target.value === '*' ? undefined : e.target.value)}
    >
      <option value="*">{all}</option>
      {values.map(([name, n]) => (
        <option key={name} value={name}>
          {(names?.get(name) ?? name) || none} ({n})
        </option>
      ))}
    </Form.Select>
  );
}
