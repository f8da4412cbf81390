'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { THRESHOLD } from '@ovrel/core/regions';
import type { Cause, Change, Comparison } from '@ovrel/core/contract';
import type { ComparisonResponse, Version } from '../../contract/api.ts';
import type { Ignore } from '../../contract/preferences.ts';
import { Said } from '../frame/Said.tsx';
import { saySize } from '../words.ts';
import { CauseList } from './CauseList.tsx';
import { ChangeFilters } from './ChangeFilters.tsx';
import { ChangeList } from './ChangeList.tsx';
import { emptyFilter, type Filter } from './filter.ts';
import { PageList, usePages } from './PageList.tsx';
import { TitleBlockChanges } from './TitleBlocks.tsx';
import { useFirstLook } from './useFirstLook.ts';
import type { WhoChanged } from './useWho.ts';

interface Props {
  readonly a: Version;
  readonly b: Version;
  readonly newest: Version;
  /** Name of the file that A is of, where that is not the file of the page or not its line. */
  readonly otherName: string | undefined;
  readonly who: WhoChanged;
  readonly onCompareWith: () => void;
  readonly result: ComparisonResponse | undefined;
  readonly problem: string | undefined;
  readonly filter: Filter;
  readonly onFilter: (filter: Filter) => void;
  readonly ignore: Ignore;
  readonly onIgnore: (ignore: Ignore) => void;
  /** Changes and causes after what is ignored. */
  readonly changes: readonly Change[];
  readonly causes: readonly Cause[];
  readonly ignored: number;
  /** What passes the filter. */
  readonly shown: readonly Change[];
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
  readonly comments: React.ReactNode;
  /** Comments on the chosen change; undefined where none is chosen, or its part is gone. */
  readonly onComment: (() => void) | undefined;
  /** Of pictures: how much a place must differ to be listed; undefined for anything else. */
  readonly threshold: number | undefined;
  readonly onThreshold: (threshold: number) => void;
  readonly onTolerance: (tolerance: number | undefined) => void;
  readonly drawing: boolean;
  readonly onDraw: () => void;
  /** Goes to a page in the viewer. */
  readonly onPage: (name: string) => void;
  readonly onLeave: () => void;
  readonly onSwap: () => void;
}

const reports = [
  ['pdf', 'with pictures of before and after'],
  ['xlsx', 'a row a change, and the causes'],
  ['csv', 'a row a change'],
  ['json', 'for programs'],
  ['dxf', 'the changed parts alone, A and B on layers'],
  ['svg', 'the changed parts alone, A and B in groups'],
] as const;

const levelNames = {
  parts: 'part by part',
  pixels: 'pixel by pixel',
  text: 'line by line',
  bytes: 'byte by byte',
} as const;

const layered = ({ changes }: Comparison): boolean =>
  changes.some((c) => c.part.kind === 'layer' || c.part.kind === 'group');

function sayCounts(comparison: Comparison, shown: number): string {
  const { level, counts } = comparison;
  if (level === 'bytes') return '';
  if (layered(comparison)) return `: ${shown === 1 ? '1 change' : `${shown.toLocaleString('en')} changes`}`;
  if (level === 'pixels') return shown === 1 ? ': 1 place changed' : `: ${shown.toLocaleString('en')} places changed`;
  return `: ${shown.toLocaleString('en')} changed, ${counts.unchanged.toLocaleString('en')} unchanged`;
}

export function WhatChanged(p: Props): React.ReactNode {
  const { a, b, result, filter } = p;
  const comparison = result?.comparison;
  const byParts = comparison?.level === 'parts';
  const caused = byParts || comparison?.level === 'pixels';
  const pages = usePages(a, b, result);
  const look = useFirstLook(a, b, !result && !p.problem);
  const apart = b.number - a.number !== 1 || b.fileId !== a.fileId;
  const list = (
    <ChangeList
      changes={p.shown}
      {...(apart ? { who: p.who } : {})}
      lines={comparison?.level === 'text'}
      selected={p.selected}
      onSelect={p.onSelect}
    />
  );
  return (
    <section className="ov-about" aria-label="What changed">
      <h1>What changed</h1>
      <p>
        <span className="ov-mono" style={{ color: 'var(--ov-a)' }}>
          A v{a.number}
        </span>{' '}
        →{' '}
        <span className="ov-mono" style={{ color: 'var(--ov-b)' }}>
          B v{b.number}
        </span>
        {b.id === p.newest.id ? ', the newest' : ''}
      </p>
      {p.otherName !== undefined && (
        <p>
          A is of <Link href={`/files/${a.fileId}?v=${a.number}`}>{p.otherName}</Link>
        </p>
      )}
      <p className="ov-quiet">
        A by {a.by.name}, B by {b.by.name}
      </p>
      <div className="d-flex flex-wrap gap-2 my-2">
        <Button size="sm" variant="outline-secondary" onClick={p.onLeave}>
          Leave comparison
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={p.onSwap}>
          Swap A and B
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={p.onCompareWith}>
          With another file …
        </Button>
      </div>
      {p.problem && <Said problem>{p.problem}</Said>}
      {!comparison && !p.problem && (
        <p role="status">
          Comparing v{a.number} with v{b.number} …
        </p>
      )}
      {!comparison && !p.problem && look && (
        <div className="ov-note" data-testid="first-look">
          <p className="mb-1">
            {look.sentences.length ? 'At a first look' : 'At a first look nothing differs'}, at{' '}
            {Math.round(look.factor * 100)} % of the size:
            {look.sentences.length ? '' : ' small places may still be found.'}
          </p>
          {look.sentences.length > 0 && (
            <ul aria-label="At a first look">
              {look.sentences.slice(0, 8).map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
          )}
        </div>
      )}
      {!comparison && pages && <PageList of={pages} changes={undefined} onPage={p.onPage} />}
      {comparison && (
        <>
          {(!caused || !p.causes.length) && (
            <p className="ov-note" data-testid="summary">
              {p.ignored && !p.changes.length ? 'Nothing but what you ignore' : comparison.summary}
            </p>
          )}
          <p className="ov-quiet">
            Compared {levelNames[comparison.level]}
            {sayCounts(comparison, p.changes.length)}.{' '}
            {a.size === b.size ? `Both ${saySize(a.size)}.` : `${saySize(a.size)}, then ${saySize(b.size)}.`}
          </p>
          {comparison.notes.map((n) => (
            <div className="ov-older" key={n}>
              {n}
            </div>
          ))}
          {caused && p.causes.length > 0 && (
            <CauseList causes={p.causes} open={filter.cause} onOpen={(cause) => p.onFilter({ ...filter, cause })}>
              {list}
            </CauseList>
          )}
          {pages && <PageList of={pages} changes={p.changes} onPage={p.onPage} />}
          {comparison.titleBlocks && <TitleBlockChanges blocks={comparison.titleBlocks} />}
          {(comparison.changes.length > 0 || p.threshold !== undefined) && comparison.level !== 'bytes' && (
            <>
              {p.threshold !== undefined && <Threshold value={p.threshold} onChange={p.onThreshold} />}
              {byParts ? (
                <h2>Part by part</h2>
              ) : comparison.level === 'pixels' ? (
                <h2>{layered(comparison) ? 'Layers and places' : 'Place by place'}</h2>
              ) : null}
              <ChangeFilters
                changes={p.changes}
                unit={comparison.unit}
                who={p.who}
                filter={filter}
                onFilter={p.onFilter}
                ignore={p.ignore}
                onIgnore={p.onIgnore}
                ignored={p.ignored}
                tolerance={byParts ? comparison.tolerance : undefined}
                onTolerance={p.onTolerance}
                drawing={p.drawing}
                onDraw={p.onDraw}
              />
            </>
          )}
          {filter.cause === undefined ? (
            list
          ) : (
            <p className="mt-2">
              <Button variant="link" className="p-0" onClick={() => p.onFilter({ ...filter, cause: undefined })}>
                Show the parts of all causes
              </Button>
            </p>
          )}
          <details className="ov-reports mt-3">
            <summary>This comparison as a file</summary>
            <ul>
              {reports
                .filter(([form]) => byParts || (form !== 'dxf' && form !== 'svg'))
                .map(([form, says]) => (
                  <li key={form}>
                    <a href={`/api/v1/comparisons/report?a=${a.id}&b=${b.id}&as=${form}`} download>
                      {form.toUpperCase()}
                    </a>{' '}
                    <span className="ov-quiet">{says}</span>
                  </li>
                ))}
            </ul>
          </details>
          {p.onComment && (
            <Button size="sm" variant="outline-secondary" className="mt-2" onClick={p.onComment}>
              Comment on the chosen change
            </Button>
          )}
          {p.changes.length > 0 && !p.shown.length && (
            <p>
              Nothing passes the filter.{' '}
              <Button variant="link" className="p-0 align-baseline" onClick={() => p.onFilter(emptyFilter)}>
                Show all
              </Button>
            </p>
          )}
        </>
      )}
      {p.comments}
    </section>
  );
}

function Threshold({ value, onChange }: { value: number; onChange: (value: number) => void }): React.ReactNode {
  return (
    <div className="ov-threshold">
      <Form.Label htmlFor="threshold">
        Differences of at least <span className="ov-mono">{value.toFixed(1)}</span>
      </Form.Label>
      <Form.Range
        id="threshold"
        min={0.8}
        max={20}
        step={0.1}
        value={value}
        onChange={(e) => onChange(Number(e.target.value))}
      />
      <p className="ov-quiet">
        1 is about what an eye can just tell (CIEDE2000).{' '}
        {value === THRESHOLD ? (
          ''
        ) : (
          <Button variant="link" className="p-0 align-baseline" onClick={() => onChange(THRESHOLD)}>
            Back to {THRESHOLD}
          </Button>
        )}
      </p>
    </div>
  );
}
