'use client';
/** What of a history is shown: kinds, a person, words, days. What is left out is counted. */
import { plural } from '@ovrel/core/plural';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { filterKinds, type FilterKind } from '../../contract/version-filter.ts';
import { isFiltering, NO_FILTER, toggled, type Filter } from './filter.ts';

interface Props {
  readonly filter: Filter;
  readonly people: readonly { readonly id: string; readonly name: string }[];
  /** How many the filter leaves out, of what; absent while that is not known. */
  readonly filteredOut: number | undefined;
  readonly what: string;
  readonly onChange: (filter: Filter) => void;
}

const kindWords: Readonly<Record<FilterKind, string>> = {
  keeper: 'Keepers',
  'check-in': 'Check-ins',
  autosave: 'Autosaves',
  backup: 'Backups',
};

export function FilterBar({ filter, people, filteredOut, what, onChange }: Props): React.ReactNode {
  const isOn = isFiltering(filter);
  return (
    <div className="ov-filter-bar" role="search" aria-label={`Filter ${what}s`}>
      {filterKinds.map((kind) => (
        <Form.Check
          key={kind}
          inline
          id={`filter-${kind}`}
          label={kindWords[kind]}
          checked={filter.kinds.has(kind)}
          onChange={() => onChange(toggled(filter, kind))}
        />
      ))}
      <Form.Select
        size="sm"
        aria-label="Made by"
        value={filter.person}
        onChange={(e) => onChange({ ...filter, person: e.target.value })}
      >
        <option value="">by everybody</option>
        {people.map(({ id, name }) => (
          <option key={id} value={id}>
            by {name}
          </option>
        ))}
      </Form.Select>
      <Form.Control
        size="sm"
        type="search"
        aria-label="Words of note or title"
        placeholder="Words of note or title"
        maxLength={200}
        value={filter.words}
        onChange={(e) => onChange({ ...filter, words: e.target.value })}
      />
      <DayField name="From" value={filter.from} onChange={(from) => onChange({ ...filter, from })} />
      <span>to</span>
      <DayField name="To" value={filter.to} onChange={(to) => onChange({ ...filter, to })} />
      {isOn && (
        <>
          <span role="status">{filteredOut === undefined ? '' : `${plural(filteredOut, what)} filtered out`}</span>
          <Button size="sm" variant="link" onClick={() => onChange(NO_FILTER)}>
            Show all
          </Button>
        </>
      )}
    </div>
  );
}

interface DayFieldProps {
  readonly name: string;
  readonly value: string;
  readonly onChange: (day: string) => void;
}

const DayField = ({ name, value, onChange }: DayFieldProps): React.ReactNode => (
  <Form.Control size="sm" type="date" aria-label={name} value={value} onChange={(e) => onChange(e.target.value)} />
);
