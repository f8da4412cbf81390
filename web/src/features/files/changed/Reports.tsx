'use client';

import { useCompared } from '../state/compared.tsx';
import { useShown } from '../state/shown.tsx';
import { api } from '../../../contract/operations/index.ts';
import { linkTo, type Input } from '../../../contract/operation.ts';

interface Report {
  readonly form: NonNullable<Input<typeof api.comparisons.report>['query']>['as'];
  readonly says: string;
  /** It shows parts: there is none of a comparison without parts. */
  readonly ofParts?: boolean;
}

const reports: readonly Report[] = [
  { form: 'pdf', says: 'with pictures of before and after' },
  { form: 'xlsx', says: 'a row a change, and the causes' },
  { form: 'csv', says: 'a row a change' },
  { form: 'json', says: 'for programs' },
  { form: 'dxf', says: 'the changed parts alone, A and B on layers', ofParts: true },
  { form: 'svg', says: 'the changed parts alone, A and B in groups', ofParts: true },
];

export function Reports(): React.ReactNode {
  const { a, b, proposal } = useShown();
  const { result } = useCompared();
  if (!result || proposal) return null;
  const byParts = result.comparison.level === 'parts';
  return (
    <details className="ov-reports mt-3">
      <summary>This comparison as a file</summary>
      <ul>
        {reports
          .filter((report) => byParts || !report.ofParts)
          .map(({ form, says }) => (
            <li key={form}>
              <a href={linkTo(api.comparisons.report, { query: { a: a.id, b: b.id, as: form } })} download>
                {form.toUpperCase()}
              </a>{' '}
              <span className="ov-quiet">{says}</span>
            </li>
          ))}
      </ul>
    </details>
  );
}
