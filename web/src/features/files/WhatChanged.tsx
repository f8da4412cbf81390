'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { changeKinds, type Change, type ChangeKind } from '@ovrel/core/contract';
import type { ComparisonResponse, Version } from '../../contract/api.ts';
import { Said } from '../frame/Said.tsx';
import { saySize } from '../words.ts';
import { tally, type Filter } from './filter.ts';
import { signOf } from '../viewer/looks.ts';

interface Props {
  readonly a: Version;
  readonly b: Version;
  readonly newest: Version;
  readonly result: ComparisonResponse | undefined;
  readonly problem: string | undefined;
  readonly filter: Filter;
  readonly onFilter: (filter: Filter) => void;
  readonly shown: readonly Change[];
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
  readonly onLeave: () => void;
  readonly onSwap: () => void;
}

const kindNames: Readonly<Record<ChangeKind, string>> = { removed: 'only in A', added: 'only in B', changed: 'changed', moved: 'moved' };
const levelNames = { parts: 'part by part', text: 'line by line', bytes: 'byte by byte' } as const;
const PAGE = 200;

export function WhatChanged(p: Props): React.ReactNode {
  const { a, b, result, filter } = p;
  const comparison = result?.comparison;
  return (
    <section className="ov-about" aria-label="What changed">
      <h1>What changed</h1>
      <p><span className="ov-mono" style={{ color: 'var(--ov-a)' }}>A v{a.number}</span> → <span className="ov-mono" style={{ color: 'var(--ov-b)' }}>B v{b.number}</span>{b.id === p.newest.id ? ', the newest' : ''}</p>
      <p className="ov-quiet">A by {a.by.name}, B by {b.by.name}</p>
      <div className="d-flex gap-2 my-2"><Button size="sm" variant="outline-secondary" onClick={p.onLeave}>Leave comparison</Button><Button size="sm" variant="outline-secondary" onClick={p.onSwap}>Swap A and B</Button></div>
      {p.problem && <Said problem>{p.problem}</Said>}
      {!comparison && !p.problem && <p role="status">Comparing v{a.number} with v{b.number} …</p>}
      {comparison && (
        <>
          <p className="ov-note" data-testid="summary">{comparison.summary}</p>
          <p className="ov-quiet">Compared {levelNames[comparison.level]}{comparison.level === 'bytes' ? '' : `; ${comparison.counts.unchanged.toLocaleString('en')} unchanged`}. {a.size === b.size ? `Both ${saySize(a.size)}.` : `${saySize(a.size)}, then ${saySize(b.size)}.`}</p>
          {comparison.notes.map((n) => <div className="ov-older" key={n}>{n}</div>)}
          {comparison.changes.length > 0 && comparison.level !== 'bytes' && <Filters comparison={comparison} filter={filter} onFilter={p.onFilter} />}
          <List changes={p.shown} selected={p.selected} onSelect={p.onSelect} />
          {comparison.changes.length > 0 && !p.shown.length && <p>Nothing passes the filter. <Button variant="link" className="p-0 align-baseline" onClick={() => p.onFilter({ without: new Set(), category: undefined, aspect: undefined })}>Show all</Button></p>}
        </>
      )}
    </section>
  );
}

function Filters({ comparison, filter, onFilter }: { comparison: ComparisonResponse['comparison']; filter: Filter; onFilter: (f: Filter) => void }): React.ReactNode {
  const { changes, counts } = comparison;
  const layers = tally(changes.flatMap((c) => [...new Set([c.partA?.category, c.partB?.category].filter((x): x is string => x !== undefined))]));
  const aspects = tally(changes.flatMap((c) => [...new Set(c.what.map((w) => w.aspect))]));
  const toggle = (kind: ChangeKind): void => {
    const without = new Set(filter.without);
    if (!without.delete(kind)) without.add(kind);
    onFilter({ ...filter, without });
  };
  return (
    <>
      <div className="ov-chips" role="group" aria-label="Kinds of change">
        {changeKinds.filter((k) => counts[k] > 0).map((kind) => (
          <Button key={kind} variant="outline-secondary" active={!filter.without.has(kind)} aria-pressed={!filter.without.has(kind)} onClick={() => toggle(kind)}>
            <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {kindNames[kind]} <span className="ov-mono">{counts[kind].toLocaleString('en')}</span>
          </Button>
        ))}
      </div>
      <div className="d-flex gap-2">
        {layers.length > 1 && <Form.Select size="sm" aria-label="Layer" value={filter.category ?? '*'} onChange={(e) => onFilter({ ...filter, category: e.target.value === '*' ? undefined : e.target.value })}><option value="*">All layers</option>{layers.map(([name, n]) => <option key={name} value={name}>{name || 'No layer'} ({n})</option>)}</Form.Select>}
        {aspects.length > 1 && <Form.Select size="sm" aria-label="What of it changed" value={filter.aspect ?? '*'} onChange={(e) => onFilter({ ...filter, aspect: e.target.value === '*' ? undefined : e.target.value })}><option value="*">Any difference</option>{aspects.map(([name, n]) => <option key={name} value={name}>{name} ({n})</option>)}</Form.Select>}
      </div>
    </>
  );
}

function List({ changes, selected, onSelect }: { changes: readonly Change[]; selected: string | undefined; onSelect: (id: string) => void }): React.ReactNode {
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
            <button type="button" aria-current={c.id === selected} onClick={() => onSelect(c.id)}>
              <span className={`ov-sign ov-${c.kind}`} aria-label={kindNames[c.kind]}>{signOf[c.kind]}</span>
              <span className="ov-cut" title={c.part.name}>{c.part.kind === 'line' ? c.part.key : c.part.kind}{c.part.name !== c.part.kind ? ` ${c.part.name}` : c.part.key ? ` ${c.part.key}` : ''}</span>
              {(c.part.category || c.what.length > 0) && (
                <span className="ov-what">
                  {c.part.category && <span>{c.part.category}{c.what.length ? '; ' : ''}</span>}
                  {c.what.map((w, i) => <span key={i}>{i ? '; ' : ''}{w.property ?? w.aspect}: <del>{w.from}</del> → <ins>{w.to}</ins></span>)}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
      {changes.length > count && <Button variant="outline-secondary" size="sm" className="mt-2" onClick={() => setPages((n) => n + 1)}>Show {Math.min(PAGE, changes.length - count)} more of {changes.length.toLocaleString('en')}</Button>}
    </>
  );
}
