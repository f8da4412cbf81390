'use client';

/** What a model is made of: to see some of it alone, and to find a part by its name. */
import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Change } from '@ovrel/core/contract';
import { signOf } from '../looks.ts';
import type { PartPicked } from './PickedPart.tsx';
import { groupingsOf, hiddenBut, titleOf, treeOf, type Grouping, type TreeGroup, type TreePart } from './tree.ts';
import type { Spaces } from './useSpaces.ts';

/** Parts of one group that are listed. */
const MOST_LISTED = 200;

interface Props {
  readonly spaces: Spaces;
  /** What the format calls one of the groups of its parts. */
  readonly category: string | undefined;
  readonly comparing: boolean;
  readonly changes: readonly Change[];
  readonly hidden: ReadonlySet<string>;
  readonly onHidden: (hidden: ReadonlySet<string>) => void;
  readonly onPick: (picked: PartPicked) => void;
}

export function PartsPanel({ spaces, category, comparing, changes, hidden, onHidden, onPick }: Props): React.ReactNode {
  const { a, b } = spaces;
  const choices = useMemo(() => (b ? groupingsOf(b) : []), [b]);
  const [asked, setAsked] = useState<Grouping>();
  const [words, setWords] = useState('');
  const grouping = asked ?? choices[0] ?? 'kind';
  const all = useMemo(
    () => (b ? treeOf(grouping, b, comparing ? a : undefined, comparing ? changes : []) : []),
    [grouping, a, b, comparing, changes],
  );
  const groups = useMemo(() => named(all, words), [all, words]);
  const alone = (isSeen: (part: TreePart) => boolean): void => onHidden(hiddenBut(all, isSeen));
  return (
    <aside className="ov-parts" aria-label="Parts of the model">
      <div className="ov-parts-head">
        <Form.Select
          size="sm"
          aria-label="Parts by"
          value={grouping}
          onChange={(e) => setAsked(e.target.value as Grouping)}
        >
          {(choices.length > 0 ? choices : [grouping]).map((one) => (
            <option key={one} value={one}>
              By {titleOf(one, category)}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          size="sm"
          type="search"
          placeholder="Find a part"
          aria-label="Find a part"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <div>
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={hidden.size === 0}
            onClick={() => onHidden(new Set())}
          >
            Show all
          </Button>{' '}
          {comparing && (
            <Button size="sm" variant="outline-secondary" onClick={() => alone(({ change }) => change !== undefined)}>
              Only what changed
            </Button>
          )}
        </div>
      </div>
      {groups.length === 0 && <p className="ov-quiet">No part is called so.</p>}
      {groups.map((group) => (
        <Group
          key={group.name}
          group={group}
          isOpen={words !== ''}
          hidden={hidden}
          onHidden={onHidden}
          onAlone={() => alone((part) => group.parts.some((own) => own.keys[0] === part.keys[0]))}
          onPick={onPick}
        />
      ))}
    </aside>
  );
}

/** Groups with what has the words in its name, or all of a group that has them in its own. */
function named(groups: readonly TreeGroup[], words: string): readonly TreeGroup[] {
  const sought = words.trim().toLowerCase();
  if (!sought) return groups;
  return groups.flatMap((group) => {
    if (group.name.toLowerCase().includes(sought)) return [group];
    const parts = group.parts.filter(({ name }) => name.toLowerCase().includes(sought));
    return parts.length > 0 ? [{ ...group, parts, changed: parts.filter(({ change }) => change).length }] : [];
  });
}

interface GroupProps {
  readonly group: TreeGroup;
  readonly isOpen: boolean;
  readonly hidden: ReadonlySet<string>;
  readonly onHidden: (hidden: ReadonlySet<string>) => void;
  readonly onAlone: () => void;
  readonly onPick: (picked: PartPicked) => void;
}

function Group({ group, isOpen, hidden, onHidden, onAlone, onPick }: GroupProps): React.ReactNode {
  const { name, parts, changed } = group;
  const isSeen = parts.some(({ keys: [key] }) => !hidden.has(key ?? ''));
  const show = (seen: boolean): void => {
    const next = new Set(hidden);
    for (const { keys } of parts)
      for (const key of keys) {
        if (seen) next.delete(key);
        else next.add(key);
      }
    onHidden(next);
  };
  return (
    <details open={isOpen}>
      <summary>
        <Form.Check
          type="checkbox"
          aria-label={`Show ${name}`}
          checked={isSeen}
          onChange={(e) => show(e.target.checked)}
        />
        <span className="ov-parts-name">{name}</span>
        <span className="ov-quiet">
          {parts.length.toLocaleString('en')}
          {changed > 0 && `, ${changed.toLocaleString('en')} changed`}
        </span>
        <Button size="sm" variant="link" aria-label={`Only ${name}`} onClick={onAlone}>
          Only
        </Button>
      </summary>
      <ul>
        {parts.slice(0, MOST_LISTED).map(({ side, index, name: called, change, keys: [key = ''] }) => (
          <li key={key}>
            <button type="button" onClick={() => onPick({ side, part: index })}>
              {change && (
                <span className={`ov-sign ov-${change.kind}`} aria-label={change.kind}>
                  {signOf[change.kind]}
                </span>
              )}
              {called}
              {hidden.has(key) && <span className="ov-quiet"> hidden</span>}
            </button>
          </li>
        ))}
      </ul>
      {parts.length > MOST_LISTED && (
        <p className="ov-quiet">and {(parts.length - MOST_LISTED).toLocaleString('en')} more; find one by its name</p>
      )}
    </details>
  );
}
