'use client';

/** One file's history: versions and everything else that was done with it, together. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { FileHistory } from '../../contract/history.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { FilterBar } from '../filter/FilterBar.tsx';
import { useFilter } from '../filter/useFilter.ts';
import { useLive } from '../live/useLive.ts';
import { Moment } from '../frame/Ago.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

type Step = FileHistory['steps'][number];

export function FileHistoryPage({
  file,
  people,
  initial,
}: {
  file: { id: string; name: string; projectId: string };
  /** Who could have made versions. */
  people: readonly { readonly id: string; readonly name: string }[];
  initial: FileHistory;
}): React.ReactNode {
  const { filter, setFilter, query, isFiltered } = useFilter();
  const { data = initial, mutate } = useAnswer(
    api.files.history,
    { fileId: file.id, query },
    { keepPreviousData: true, ...(isFiltered ? {} : { fallbackData: initial }) },
  );
  const [older, setOlder] = useState<readonly Step[]>([]);
  const [more, setMore] = useState<boolean>();
  const [only, setOnly] = useState<'all' | 'versions' | 'acts'>('all');
  const [problem, setProblem] = useState<string>();
  useLive({ file: file.id }, (event) => {
    if (event?.kind !== 'present') void mutate();
  });
  const last = data.steps.at(-1)?.at ?? '';
  const steps = [...data.steps, ...older.filter((s) => s.at < last)];
  const show = async (): Promise<void> => {
    try {
      const next = await call(api.files.history, {
        fileId: file.id,
        query: { ...query, before: steps.at(-1)?.at ?? '' },
      });
      setOlder((before) => [...before, ...next.steps]);
      setMore(next.more);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>History of {file.name}</h1>
        <Link className="btn btn-outline-secondary" href={`/files/${file.id}`}>
          Open the file
        </Link>
        <Link className="btn btn-outline-secondary" href={`/ledger?file=${file.id}`}>
          Ledger of the file
        </Link>
      </div>
      {problem && <Said problem>{problem}</Said>}
      <div className="ov-filters">
        <Form.Select size="sm" aria-label="Show" value={only} onChange={(e) => setOnly(e.target.value as typeof only)}>
          <option value="all">Versions and acts</option>
          <option value="versions">Versions only</option>
          <option value="acts">Acts only</option>
        </Form.Select>
      </div>
      <FilterBar
        filter={filter}
        people={people}
        filteredOut={data.filteredOut}
        what="version"
        onChange={(next) => {
          setFilter(next);
          setOlder([]);
          setMore(undefined);
        }}
      />
      <ol className="ov-sets">
        {steps
          .filter((s) => only === 'all' || (s.version !== null) === (only === 'versions'))
          .map((s, i) => (
            <li key={s.version?.id ?? s.entry?.seq ?? i}>
              {s.version ? (
                <VersionStep version={s.version} projectId={file.projectId} />
              ) : (
                s.entry && <ActStep entry={s.entry} />
              )}
            </li>
          ))}
      </ol>
      {(more ?? data.more) && (
        <Button variant="outline-secondary" onClick={() => void show()}>
          Show what came before
        </Button>
      )}
    </main>
  );
}

function VersionStep({
  version: v,
  projectId,
}: {
  version: NonNullable<Step['version']>;
  projectId: string;
}): React.ReactNode {
  const main = v.line === 'main line';
  return (
    <>
      <div className="ov-set-head">
        <Link href={`/files/${v.fileId}?v=${v.id}`}>
          <span className="ov-mono">v{v.number}</span>
        </Link>
        {main ? '' : ` of ${v.line}`} {v.title && <strong>{v.title} </strong>}by {v.by.name}, <Moment at={v.at} />
      </div>
      {v.note && <p className="ov-note">{v.note}</p>}
      <div>
        <span className="ov-quiet">
          {v.parentId === null ? 'first version' : (v.summary ?? '')}
          {v.source === null ? '' : `, from v${v.source}`}
        </span>
        {main && v.parentId !== null && (
          <Link className="ov-step" href={`/files/${v.fileId}?a=${v.parentId}&b=${v.id}`}>
            compare with the one before
          </Link>
        )}
        {v.set > 0 && (
          <Link className="ov-step" href={`/projects/${projectId}/history?set=${v.set}#set-${v.set}`}>
            set {v.set}
          </Link>
        )}
      </div>
    </>
  );
}

const ActStep = ({ entry: e }: { entry: NonNullable<Step['entry']> }): React.ReactNode => (
  <>
    <div className="ov-set-head">
      <strong>{e.act.charAt(0).toUpperCase() + e.act.slice(1)}</strong> <span className="ov-quiet">{e.subject}</span> by{' '}
      {e.by?.name ?? 'Ovrel itself'}, <Moment at={e.at} />
    </div>
    {e.reason && <p className="ov-note">{e.reason}</p>}
  </>
);
