/** What the title blocks of a drawing or a set say, and what became of it. */
import type { Comparison } from '@ovrel/core/contract';
import type { VersionDetail } from '../../contract/api.ts';

type Fields = VersionDetail['look']['titleBlocks'][number]['fields'];

const names: readonly (readonly [keyof Fields, string])[] = [
  ['number', 'Drawing number'],
  ['title', 'Title'],
  ['revision', 'Revision'],
  ['date', 'Date'],
  ['scale', 'Scale'],
  ['sheet', 'Sheet'],
  ['status', 'Status'],
  ['type', 'Document type'],
  ['owner', 'Legal owner'],
  ['creator', 'Drawn by'],
  ['approved', 'Checked or approved'],
];

/** Of one version: all fields of a single sheet, the main ones of a set. */
export function TitleBlocks({ blocks }: { blocks: VersionDetail['look']['titleBlocks'] }): React.ReactNode {
  const [first] = blocks;
  if (!first) return null;
  if (blocks.length === 1)
    return (
      <>
        <h2>Title block</h2>
        <dl className="ov-facts">
          {names.flatMap(([field, name]) =>
            first.fields[field]
              ? [<dt key={`${field} name`}>{name}</dt>, <dd key={field}>{first.fields[field]}</dd>]
              : [],
          )}
        </dl>
      </>
    );
  return (
    <details className="mt-3">
      <summary>Title blocks of {blocks.length} sheets</summary>
      <table className="ov-titles">
        <thead>
          <tr>
            <th>Number</th>
            <th>Rev.</th>
            <th>Date</th>
            <th>Scale</th>
          </tr>
        </thead>
        <tbody>
          {blocks.map(({ page, fields }) => (
            <tr key={page} title={`${page}: ${fields.title ?? ''}`}>
              <td>{fields.number ?? page}</td>
              <td>{fields.revision}</td>
              <td>{fields.date}</td>
              <td>{fields.scale}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

/** Of two versions: sheets whose fields differ, and those that should. */
export function TitleBlockChanges({ blocks }: { blocks: NonNullable<Comparison['titleBlocks']> }): React.ReactNode {
  const rows = blocks.flatMap((t) => {
    const differ = names.filter(([field]) => (t.a?.[field] ?? '') !== (t.b?.[field] ?? ''));
    return differ.length || t.stale ? [{ ...t, differ }] : [];
  });
  if (!rows.length) return null;
  return (
    <details className="mt-3">
      <summary>
        Title blocks: {rows.length} of {blocks.length} {blocks.length === 1 ? 'sheet' : 'sheets'}{' '}
        {rows.length === 1 ? 'differs' : 'differ'}
      </summary>
      <ul className="ov-changes" aria-label="Title blocks">
        {rows.map(({ page, a, b, stale, differ }) => (
          <li key={page} className="py-2">
            <strong>{b?.number ?? a?.number ?? page}</strong> <span className="ov-quiet">{page}</span>
            {stale && <div>Changed, and still revision {b?.revision}</div>}
            {differ.map(([field, name]) => (
              <div key={field}>
                {name}: <del>{a?.[field] ?? 'none'}</del> → <ins>{b?.[field] ?? 'none'}</ins>
              </div>
            ))}
          </li>
        ))}
      </ul>
    </details>
  );
}
