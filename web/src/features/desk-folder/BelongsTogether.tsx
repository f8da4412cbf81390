import Button from 'react-bootstrap/Button';
import { baseName } from './paths.ts';
import type { Row } from './useDesk.ts';
import type { Branch } from './useTree.ts';

interface Props {
  readonly branches: readonly Branch[];
  /** Paths of what is checked in. */
  readonly chosen: ReadonlySet<string>;
  readonly busy: boolean;
  readonly onTake: (row: Row) => void;
}

/** What was chosen and belongs together: what would be forgotten comes first. */
export function BelongsTogether({ branches, chosen, busy, onTake }: Props): React.ReactNode {
  const left = branches.flatMap((b) =>
    b.needs.flatMap(({ row }) =>
      row && !chosen.has(row.path) && (row.status === 'changed here' || row.status === 'not in Ovrel')
        ? [{ by: b.path, row }]
        : [],
    ),
  );
  const lost = branches.flatMap((b) =>
    b.needs.flatMap((n) => (n.found === 'missing' ? [{ by: b.path, target: n.target }] : [])),
  );
  const sound = branches.flatMap((b) => {
    const needs = b.needs.flatMap(({ row }) =>
      row ? [`${baseName(row.path)} (${chosen.has(row.path) ? 'goes along' : row.status})`] : [],
    );
    return needs.length || b.neededBy.length ? [{ path: b.path, needs, neededBy: b.neededBy }] : [];
  });
  if (!left.length && !lost.length && !sound.length) return null;
  return (
    <section className="ov-along mb-3" aria-label="What belongs together">
      <ul>
        {left.map(({ by, row }, i) => (
          <li key={`l${i}`} className="ov-warn">
            <i className="bi bi-exclamation-triangle" aria-hidden="true" /> {baseName(by)} needs {baseName(row.path)},
            which is {row.status === 'not in Ovrel' ? 'not in Ovrel yet' : 'changed here'} and left out.{' '}
            <Button variant="link" className="p-0 align-baseline" disabled={busy} onClick={() => onTake(row)}>
              Take {baseName(row.path)} along
            </Button>
          </li>
        ))}
        {lost.map(({ by, target }, i) => (
          <li key={`m${i}`} className="ov-warn">
            <i className="bi bi-exclamation-triangle" aria-hidden="true" /> {baseName(by)} needs{' '}
            <span className="ov-mono">{target}</span>, which is neither here nor in the project.
          </li>
        ))}
        {sound.slice(0, 20).map(({ path, needs, neededBy }) => (
          <li key={path} className="ov-quiet">
            {baseName(path)}
            {needs.length > 0 &&
              `: needs ${needs.slice(0, 6).join(', ')}${needs.length > 6 ? ` and ${needs.length - 6} more` : ''}`}
            {neededBy.length > 0 &&
              `${needs.length ? ';' : ':'} needed by ${neededBy
                .slice(0, 6)
                .map((u) => `${baseName(u.path)}${u.holder ? ` (${u.holder} holds it)` : ''}`)
                .join(', ')}${neededBy.length > 6 ? ` and ${neededBy.length - 6} more` : ''}`}
          </li>
        ))}
      </ul>
    </section>
  );
}
