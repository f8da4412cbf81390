'use client';
/** Another version of a file: to have it here, or to go on from it. */
import Dropdown from 'react-bootstrap/Dropdown';
import type { Row } from './useDesk.ts';

interface Props {
  readonly row: Row;
  readonly disabled: boolean;
  readonly mayGoOn: boolean;
  readonly onGet: (number: number) => void;
  readonly onGoOn: (number: number) => void;
}

/** Versions that the menu lists. */
const MOST = 200;

export function VersionMenu({ row, disabled, mayGoOn, onGet, onGoOn }: Props): React.ReactNode {
  const newest = row.file?.newest.number ?? 1;
  const numbers = Array.from({ length: Math.min(newest, MOST) }, (_, i) => newest - i);
  return (
    <Dropdown className="d-inline-block">
      <Dropdown.Toggle
        size="sm"
        variant="outline-secondary"
        disabled={disabled}
        aria-label={`Another version of ${row.path}`}
      >
        Version
      </Dropdown.Toggle>
      <Dropdown.Menu className="ov-menu-long" popperConfig={{ strategy: 'fixed' }}>
        <Dropdown.Header>Have it here</Dropdown.Header>
        {numbers.map((n) => (
          <Dropdown.Item key={n} as="button" onClick={() => onGet(n)}>
            Get v{n}
          </Dropdown.Item>
        ))}
        {mayGoOn && <Dropdown.Header>Check out, and go on from it</Dropdown.Header>}
        {mayGoOn &&
          numbers.slice(1).map((n) => (
            <Dropdown.Item key={n} as="button" onClick={() => onGoOn(n)}>
              Go on from v{n}
            </Dropdown.Item>
          ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
