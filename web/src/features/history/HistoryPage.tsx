'use client';

/** A project's history: every set as one step. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { CheckinSet } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { ReasonDialog, type ReasonQuestion } from '../desk/ReasonDialog.tsx';
import { Said } from '../frame/Said.tsx';
import { FilterBar } from '../filter/FilterBar.tsx';
import { useFilter } from '../filter/useFilter.ts';
import { useLive } from '../live/useLive.ts';
import { Moment } from '../frame/Ago.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

interface Props {
  readonly projectId: string;
  readonly name: string;
  /** Who could have made versions. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly initial: readonly CheckinSet[];
  /** Sets around one that is further back. */
  readonly far: readonly CheckinSet[];
  /** The set that the address points at. */
  readonly shown: number | undefined;
  readonly mayBringForward: boolean;
}

const kindWords = {
  'check-in': 'Checked in',
  'bring forward': 'Brought forward',
  delete: 'Deleted',
  'bring back': 'Brought back',
  'take back': 'Taken back',
  'carry over': 'Carried over',
  saves: 'Saved as one went',
  join: 'Joined',
} as const;

/** The last moment before a set was there. */
const justBefore = (at: string): string => new Date(Date.parse(at) - 1).toISOString();

export function HistoryPage({ projectId, name, people, initial, far, shown, mayBringForward }: Props): React.ReactNode {
  const { filter, setFilter, query, isFiltered } = useFilter();
  const { data: recent = initial, mutate } = useAnswer(
    api.sets.list,
    { projectId, query },
    { keepPreviousData: true, ...(isFiltered ? {} : { fallbackData: initial }) },
  );
  const { data: counted } = useAnswer(api.sets.count, isFiltered ? { projectId, query } : null);
  const [older, setOlder] = useState<readonly CheckinSet[]>(far);
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [question, setQuestion] = useState<ReasonQuestion>();
  useLive({ project: projectId }, (event) => {
    if (!event || event.kind === 'version' || event.kind === 'files') void mutate();
  });
  const sets = [...recent, ...older.filter((s) => s.number < (recent.at(-1)?.number ?? 0))];
  const last = sets.at(-1)?.number ?? 0;
  // Sets come newest first: where a file is met first, it is as it is now.
  const newest = new Map<string, string>();
  for (const s of sets)
    for (const f of s.files)
      if (f.versionId !== null && !f.line && !newest.has(f.fileId)) newest.set(f.fileId, f.versionId);
  /** One file out of a set, without the others. */
  const forward = (s: CheckinSet, { versionId, version, name: file }: CheckinSet['files'][number]): void =>
    setQuestion({
      title: `Bring ${file} v${version ?? ''} forward`,
      act: 'Bring it forward',
      optional: true,
      text: `${file} becomes again what it was in set ${s.number}, as its newest version. ${s.files.length > 1 ? 'The other files of the set stay as they are now, and nothing' : 'Nothing'} is removed.`,
      save: async (note) => {
        const made = await call(api.versions.bringForward, { versionId: versionId ?? '', body: { note } });
        setSaid({ problem: false, text: `${file} v${version ?? ''} was brought forward as v${made.number}.` });
        await mutate();
      },
    });
  const more = async (): Promise<void> => {
    try {
      const next = await call(api.sets.list, { projectId, query: { ...query, before: last } });
      setOlder((before) => [...before, ...next]);
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>History of {name}</h1>
        <Link className="btn btn-outline-secondary" href={`/projects/${projectId}/deleted`}>
          Deleted files
        </Link>
        <Link className="btn btn-outline-secondary" href={`/ledger?project=${projectId}`}>
          Ledger
        </Link>
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <FilterBar
        filter={filter}
        people={people}
        filteredOut={counted?.filteredOut}
        what="set"
        onChange={(next) => {
          setFilter(next);
          setOlder([]);
        }}
      />
      {!sets.length && (
        <div className="ov-empty">
          <p>{isFiltered ? 'The filter leaves nothing.' : 'Nothing was checked in yet.'}</p>
        </div>
      )}
      <ol className="ov-sets">
        {sets.map((s) => (
          <li key={s.id} id={`set-${s.number}`} className={s.number === shown ? 'is-shown' : undefined}>
            <div className="ov-set-head">
              <span className="ov-mono">set {s.number}</span> <strong>{kindWords[s.kind]}</strong> by {s.by.name},{' '}
              <Moment at={s.at} />{' '}
              <Link
                className="ov-within"
                href={`/projects/${projectId}/as-of?at=${encodeURIComponent(justBefore(s.at))}`}
              >
                as it was before
              </Link>
            </div>
            {s.note && <p className="ov-note">{s.note}</p>}
            <ul>
              {s.files.map((f) => (
                <li key={f.fileId}>
                  <Link href={`/files/${f.fileId}${f.versionId === null ? '' : `?v=${f.versionId}`}`}>{f.name}</Link>{' '}
                  {f.version !== null && <span className="ov-mono">v{f.version}</span>}
                  {f.line ? ` of ${f.line}` : ''}
                  <span className="ov-quiet">
                    {' '}
                    {f.first ? 'first version' : (f.summary ?? '')}
                    {f.deleted ? ' (deleted now)' : ''}
                  </span>
                  {f.versionId !== null && f.parentId !== null && !f.line && (
                    <Link className="ov-step" href={`/files/${f.fileId}?a=${f.parentId}&b=${f.versionId}`}>
                      compare with the one before
                    </Link>
                  )}
                  {mayBringForward && f.versionId !== null && !f.deleted && newest.get(f.fileId) !== f.versionId && (
                    <Button
                      variant="link"
                      className="ov-step p-0 align-baseline"
                      onClick={() => forward(s, f)}
                      aria-label={`Bring ${f.name} v${f.version ?? ''} forward`}
                    >
                      bring forward
                    </Button>
                  )}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
      {last > 1 && (
        <Button variant="outline-secondary" onClick={() => void more()}>
          Earlier sets
        </Button>
      )}
      {question && <ReasonDialog question={question} onClose={() => setQuestion(undefined)} />}
    </main>
  );
}
