'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { changeKinds, type ChangeKind, type Comparison } from '@ovrel/core/contract';
import { cardOf } from '@ovrel/core/detect';
import { signOf } from '../viewer/looks.ts';
import { kindNames } from './ChangeList.tsx';
import { Choice } from './Choice.tsx';
import { blockOf, tally } from './filter.ts';
import { MoreFilters } from './MoreFilters.tsx';
import { useCompared } from './state/compared.tsx';

interface Words {
  readonly layer: string;
  readonly all: string;
  readonly none: string;
}

/** What parts are sorted by goes by another name in models. */
function wordsFor({ level, b }: Comparison): Words {
  const called = cardOf(b.format)?.called?.category;
  const one = called ?? (level === 'solid' ? 'group' : 'layer');
  return { layer: `${one.charAt(0).toUpperCase()}${one.slice(1)}`, all: `All ${one}s`, none: `No ${one}` };
}

/** Chips and lists that narrow the changes, and what is ignored in every comparison. */
export function ChangeFilters({ comparison }: { readonly comparison: Comparison }): React.ReactNode {
  const { changes, ignored, who, filter, setFilter: onFilter } = useCompared();
  const [more, setMore] = useState(false);
  const words = wordsFor(comparison);
  const layers = tally(
    changes.flatMap((c) => [
      ...new Set([c.partA?.category, c.partB?.category].filter((x): x is string => x !== undefined)),
    ]),
  );
  const aspects = tally(changes.flatMap((c) => [...new Set(c.what.map((w) => w.aspect))]));
  const blocks = tally(changes.flatMap((c) => blockOf(c) ?? []));
  const pages = tally(changes.map((c) => c.part.page));
  const touchers = changes.flatMap((c) => who.of(c.id));
  const names = new Map(touchers.map((p) => [p.id, p.name]));
  const people = tally(touchers.map((p) => p.id));
  const kinds = new Map(tally(changes.map((c) => c.kind)));
  const toggle = (kind: ChangeKind): void => {
    const without = new Set(filter.without);
    if (!without.delete(kind)) without.add(kind);
    onFilter({ ...filter, without });
  };
  return (
    <>
      <div className="ov-chips" role="group" aria-label="Kinds of change">
        {changeKinds
          .filter((k) => kinds.get(k))
          .map((kind) => (
            <Button
              key={kind}
              variant="outline-secondary"
              active={!filter.without.has(kind)}
              aria-pressed={!filter.without.has(kind)}
              onClick={() => toggle(kind)}
            >
              <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {kindNames[kind]}{' '}
              <span className="ov-mono">{(kinds.get(kind) ?? 0).toLocaleString('en')}</span>
            </Button>
          ))}
      </div>
      <div className="ov-filters">
        <Choice
          label={words.layer}
          all={words.all}
          none={words.none}
          values={layers}
          value={filter.category}
          onChange={(category) => onFilter({ ...filter, category })}
        />
        <Choice
          label="What of it changed"
          all="Any difference"
          none=""
          values={aspects}
          value={filter.aspect}
          onChange={(aspect) => onFilter({ ...filter, aspect })}
        />
        <Choice
          label="Changed by"
          all="By anybody"
          none=""
          values={people}
          names={names}
          value={filter.person}
          onChange={(person) => onFilter({ ...filter, person })}
        />
        {more && (
          <Choice
            label="Block"
            all="All blocks and others"
            none=""
            values={blocks}
            least={1}
            value={filter.block}
            onChange={(block) => onFilter({ ...filter, block })}
          />
        )}
        {more && (
          <Choice
            label="On page"
            all="All pages"
            none=""
            values={pages}
            value={filter.page}
            onChange={(page) => onFilter({ ...filter, page })}
          />
        )}
      </div>
      {more && <MoreFilters comparison={comparison} />}
      <div className="d-flex gap-2 align-items-baseline mt-2">
        <Button size="sm" variant="link" className="p-0" aria-expanded={more} onClick={() => setMore((x) => !x)}>
          {more ? 'Fewer filters' : 'More filters, and what to ignore'}
        </Button>
        {more && who.sentence && <span className="ov-quiet">{who.sentence}</span>}
        {ignored > 0 && <span className="ov-quiet">{ignored.toLocaleString('en')} ignored</span>}
      </div>
    </>
  );
}
