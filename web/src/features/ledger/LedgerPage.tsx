'use client';

/** The ledger: read, filter, export. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Ledger, LedgerEntry } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { sayMoment } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';
import { useAnswer } from '../api/useAnswer.ts';

interface Props {
  readonly initial: Ledger;
  readonly projects: readonly { id: string; name: string }[];
  readonly where: { readonly project: string; readonly file: string };
}

export function LedgerPage({ initial, projects, where }: Props): React.ReactNode {
  const [filter, setFilter] = useState({ ...where, person: '', act: '', words: '', since: '', until: '' });
  const [older, setOlder] = useState<readonly LedgerEntry[]>([]);
  const [problem, setProblem] = useState<string>();
  const query = {
    project: filter.project || undefined,
    file: filter.file || undefined,
    person: filter.person || undefined,
    act: filter.act || undefined,
    words: filter.words || undefined,
    since: filter.since ? `${filter.since}T00:00:00Z` : undefined,
    until: filter.until ? `${filter.until}T23:59:59Z` : undefined,
  };
  const untouched =
    !filter.person &&
    !filter.act &&
    !filter.words &&
    !filter.since &&
    !filter.until &&
    filter.project === where.project;
  const { data = initial } = useAnswer(
    api.ledger.read,
    { query },
    { keepPreviousData: true, ...(untouched ? { fallbackData: initial } : {}) },
  );
  const [more, setMore] = useState<boolean>();
  const set = (change: Partial<typeof filter>): void => {
    setOlder([]);
    setMore(undefined);
    setFilter((before) => ({ ...before, ...change }));
  };
  const entries = [...data.entries, ...older];
  const show = async (): Promise<void> => {
    try {
      const next = await call(api.ledger.read, { query: { ...query, before: entries.at(-1)?.seq ?? 0 } });
      setOlder((before) => [...before, ...next.entries]);
      setMore(next.more);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  const link = (as: 'csv' | 'json'): string => linkTo(api.ledger.read, { query: { ...query, as } });
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Ledger</h1>
        <a className="btn btn-outline-secondary" href={link('csv')} download>
          Download as CSV
        </a>
        <a className="btn btn-outline-secondary" href={link('json')} download>
          Download as JSON
        </a>
      </div>
      <p>
        Who did what, when, from where and why. Entries are only ever added; each is sealed by a hash over the one
        before, and “ovrel-admin verify-ledger” proves the chain.
      </p>
      {problem && <Said problem>{problem}</Said>}
      <Form className="ov-filters" onSubmit={(e) => e.preventDefault()}>
        <Form.Select
          size="sm"
          aria-label="Project"
          value={filter.project}
          onChange={(e) => set({ project: e.target.value })}
        >
          <option value="">All projects</option>
          {projects.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          aria-label="Person"
          value={filter.person}
          onChange={(e) => set({ person: e.target.value })}
        >
          <option value="">Everyone</option>
          {data.people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </Form.Select>
        <Form.Select size="sm" aria-label="Act" value={filter.act} onChange={(e) => set({ act: e.target.value })}>
          <option value="">Every act</option>
          {data.acts.map((a) => (
            <option key={a}>{a}</option>
          ))}
        </Form.Select>
        <Form.Control
          size="sm"
          type="search"
          aria-label="Words"
          placeholder="words in what or why"
          value={filter.words}
          onChange={(e) => set({ words: e.target.value })}
        />
        <Form.Control
          size="sm"
          type="date"
          aria-label="Since"
          value={filter.since}
          onChange={(e) => set({ since: e.target.value })}
        />
        <Form.Control
          size="sm"
          type="date"
          aria-label="Until"
          value={filter.until}
          onChange={(e) => set({ until: e.target.value })}
        />
        {filter.file && (
          <Button size="sm" variant="outline-secondary" onClick={() => set({ file: '' })}>
            One file only: show all
          </Button>
        )}
      </Form>
      {entries.length ? (
        <table className="ov-table" aria-label="Ledger">
          <thead>
            <tr>
              <th className="is-number">No.</th>
              <th>When (UTC)</th>
              <th>Who</th>
              <th>Act</th>
              <th>What</th>
              <th>Why</th>
              <th className="is-wide">From</th>
              <th className="is-wide">Seal</th>
            </tr>
          </thead>
          <tbody>
            {entries.map((e) => (
              <tr key={e.seq}>
                <td className="is-number">{e.seq}</td>
                <td className="text-nowrap">{sayMoment(e.at)}</td>
                <td className="text-nowrap">{e.by?.name ?? <span className="ov-quiet">nobody</span>}</td>
                <td className="text-nowrap">{e.act}</td>
                <td>{e.fileId ? <Link href={`/files/${e.fileId}`}>{e.subject}</Link> : e.subject}</td>
                <td className="is-note">{e.reason}</td>
                <td className="is-wide is-note ov-cut ov-quiet" title={e.from}>
                  {e.from}
                </td>
                <td className="is-wide ov-mono" title={e.hash}>
                  {e.hash.slice(0, 8)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <div className="ov-empty">
          <p>No entry matches.</p>
        </div>
      )}
      {(more ?? data.more) && (
        <Button className="mt-3" variant="outline-secondary" onClick={() => void show()}>
          Show older entries
        </Button>
      )}
    </main>
  );
}
