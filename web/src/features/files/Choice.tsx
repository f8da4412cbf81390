'use client';

import Form from 'react-bootstrap/Form';

/** One value of those that occur among the changes, or all. */
export function Choice({
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
