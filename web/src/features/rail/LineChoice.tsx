'use client';

import Form from 'react-bootstrap/Form';
import type { RailColumns } from '../../contract/api.ts';

interface Props {
  readonly columns: RailColumns;
  readonly onLine: (id: string) => void;
}

/** Chooses the line that the rail shows, where there are several. */
export function LineChoice({ columns: { line, lines }, onLine }: Props): React.ReactNode {
  if (lines.length < 2) return null;
  return (
    <Form.Select size="sm" aria-label="Line" value={line} onChange={(e) => onLine(e.target.value)}>
      {lines.map(({ id, name, from }) => (
        <option key={id} value={id}>
          {from === null ? name : `${name}, from v${from.number}`}
        </option>
      ))}
    </Form.Select>
  );
}
