'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { Change, ChangeKind } from '@ovrel/core/contract';
import { signOf } from '../viewer/looks.ts';
import { Pick } from './Pick.tsx';
import type { Toucher, WhoChanged } from './useWho.ts';

export const kindNames: Readonly<Record<ChangeKind, string>> = {
  removed: 'only in A',
  added: 'only in B',
  changed: 'changed',
  moved: 'moved',
};
const PAGE = 200;

/** Changes one by one, with what differs. `lines`: the parts are lines of a text. */
export function ChangeList({
  changes,
  who,
  lines,
  selected,
  onSelect,
  picked,
  onPick,
}: {
  changes: readonly Change[];
  who?: WhoChanged;
  lines: boolean;
  selected: string | undefined;
  onSelect: (id: string) => void;
  /** Ids of those that are picked; undefined where nothing can be. */
  picked?: ReadonlySet<string> | undefined;
  onPick: (ids: readonly string[], on: boolean) => void;
}): React.ReactNode {
  const [pages, setPages] = useState(1);
  const list = useRef<HTMLUListElement>(null);
  const at = changes.findIndex((c) => c.id === selected);
  const count = Math.max(pages * PAGE, at + 1);
  useEffect(() => {
    list.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  return (
    <>
      <ul className="ov-changes" ref={list} aria-label="Changes">
        {changes.slice(0, count).map((c) => (
          <li key={c.id}>
            {picked && (
              <Pick says={nameOf(c)} picked={picked.has(c.id) ? 1 : 0} of={1} onPick={(on) => onPick([c.id], on)} />
            )}
            <button type="button" aria-current={c.id === selected} onClick={() => onSelect(c.id)}>
              <span className={`ov-sign ov-${c.kind}`} aria-label={kindNames[c.kind]}>
                {signOf[c.kind]}
              </span>
              <span className="ov-cut" title={c.part.name}>
                {lines ? `${c.part.key ?? ''} ${c.part.name}` : nameOf(c)}
              </span>
              {(c.part.category || c.what.length > 0) && (
                <span className="ov-what">
                  {c.part.category && (
                    <span>
                      {c.part.category}
                      {c.what.length ? '; ' : ''}
                    </span>
                  )}
                  {c.what.map((w, i) => (
                    <span key={i}>
                      {i ? '; ' : ''}
                      {w.property ?? w.aspect}: <del>{w.from}</del> → <ins>{w.to}</ins>
                    </span>
                  ))}
                </span>
              )}
              {who && <By touchers={who.of(c.id)} />}
            </button>
          </li>
        ))}
      </ul>
      {changes.length > count && (
        <Button variant="outline-secondary" size="sm" className="mt-2" onClick={() => setPages((n) => n + 1)}>
          Show {Math.min(PAGE, changes.length - count)} more of {changes.length.toLocaleString('en')}
        </Button>
      )}
    </>
  );
}

function By({ touchers }: { touchers: readonly Toucher[] }): React.ReactNode {
  if (!touchers.length) return null;
  return <span className="ov-what">{touchers.map((p) => `${p.name} v${p.versions.join(', v')}`).join('; ')}</span>;
}

/** "circle hatch", and not "text text". */
function nameOf({ part }: Change): string {
  if (part.name === part.kind || !part.name) return part.key ? `${part.kind} ${part.key}` : part.kind;
  return part.name.startsWith(part.kind) ? part.name : `${part.kind} ${part.name}`;
}
