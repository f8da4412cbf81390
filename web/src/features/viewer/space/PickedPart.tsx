'use client';

/** The part that one clicked on: what it is, before and now. */
import Button from 'react-bootstrap/Button';
import type { Change } from '@ovrel/core/contract';
import type { SpacePart } from '@ovrel/core/space';
import type { Spaces } from './useSpaces.ts';

export interface PartPicked {
  readonly side: 'a' | 'b';
  readonly part: number;
}

interface Props {
  readonly picked: PartPicked;
  readonly spaces: Spaces;
  readonly changes: readonly Change[];
  readonly onHide: (key: string) => void;
  /** Absent where nothing can be said about it. */
  readonly onComment?: ((part: number, name: string) => void) | undefined;
  readonly onClose: () => void;
}

export function PickedPart({ picked, spaces, changes, onHide, onComment, onClose }: Props): React.ReactNode {
  const { side, part } = picked;
  const own = spaces[side]?.head.parts[part];
  if (!own) return null;
  const change = changes.find(
    (one) => one.material === undefined && (side === 'a' ? one.partA : one.partB)?.index === part,
  );
  const otherIndex = (side === 'a' ? change?.partB : change?.partA)?.index;
  const other = otherIndex === undefined ? undefined : spaces[side === 'a' ? 'b' : 'a']?.head.parts[otherIndex];
  const [before, after] = side === 'a' ? [own, other] : [other, own];
  const names = [...new Set([...Object.keys(before?.props ?? {}), ...Object.keys(after?.props ?? {})])].sort();
  return (
    <aside className="ov-part" aria-label="Part">
      <h3>{own.name}</h3>
      <p className="ov-quiet">{[own.kind, own.category, ...own.parents].filter(Boolean).join(' · ')}</p>
      {names.length > 0 && (
        <table className="table table-sm">
          <thead>
            <tr>
              <th scope="col">Property</th>
              {before && after && <th scope="col">A</th>}
              <th scope="col">{before && after ? 'B' : 'Value'}</th>
            </tr>
          </thead>
          <tbody>
            {names.map((name) => (
              <Row key={name} name={name} before={before} after={after} />
            ))}
          </tbody>
        </table>
      )}
      {onComment && side === 'b' && (
        <>
          <Button size="sm" variant="outline-secondary" onClick={() => onComment(part, own.name)}>
            Comment on it
          </Button>{' '}
        </>
      )}
      <Button size="sm" variant="outline-secondary" onClick={() => onHide(`${side}${part}`)}>
        Hide it
      </Button>{' '}
      <Button size="sm" variant="outline-secondary" onClick={onClose}>
        Close
      </Button>
    </aside>
  );
}

interface RowProps {
  readonly name: string;
  readonly before: SpacePart | undefined;
  readonly after: SpacePart | undefined;
}

function Row({ name, before, after }: RowProps): React.ReactNode {
  const say = (part: SpacePart | undefined): string => String(part?.props[name] ?? '—');
  const isBoth = before !== undefined && after !== undefined;
  const differs = isBoth && say(before) !== say(after);
  return (
    <tr className={differs ? 'is-other' : undefined}>
      <th scope="row">{name}</th>
      {isBoth && <td>{say(before)}</td>}
      <td>
        {say(after ?? before)}
        {differs && <span className="ov-sign ov-changed"> ~</span>}
      </td>
    </tr>
  );
}
