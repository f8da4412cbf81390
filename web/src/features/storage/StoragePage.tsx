'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import useSWR from 'swr';
import type { Job, Jobs, Storage, StorageReport } from '../../contract/storage.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useKeys } from '../frame/keys.tsx';
import { BytesOverTime } from '../frame/BytesOverTime.tsx';
import { Said } from '../frame/Said.tsx';
import { Ago } from '../frame/Ago.tsx';
import { saySize } from '../words.ts';
import { CostTables } from './CostTables.tsx';
import { JobList } from './JobList.tsx';
import { isSound, saidOfLedger, saidOfScrub, shareOf } from './say.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

interface Props {
  readonly initial: Storage;
  readonly initialJobs: Jobs;
  readonly mayTend: boolean;
}

/** While something runs, progress is asked for this often; else seldom, in milliseconds. */
const BUSY = 1000;
const QUIET = 6000;

const acts = [
  {
    kind: 'scrub',
    key: 'c',
    says: 'Check everything',
    title: 'Reads every stored byte again and compares it with its hash',
  },
  {
    kind: 'collect',
    key: 'r',
    says: 'Remove what nothing needs',
    title: 'Removes stored bytes that no version refers to any more',
  },
  { kind: 'tally', key: 'g', says: 'Count again', title: 'Makes the figures on this page anew' },
] as const;

export function StoragePage({ initial, initialJobs, mayTend }: Props): React.ReactNode {
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const jobs = useAnswer(
    api.storage.jobs,
    {},
    {
      fallbackData: initialJobs,
      refreshInterval: (now) => (now?.jobs.some((j) => j.state === 'running' || j.state === 'waiting') ? BUSY : QUIET),
    },
  );
  const list = jobs.data ?? initialJobs;
  // New figures appear when the work behind them is done.
  const ended = list.jobs
    .filter((j) => j.state === 'done' && (j.kind === 'tally' || j.kind === 'scrub'))
    .map((j) => j.id)
    .join(' ');
  const { data } = useSWR(['/storage', ended], () => call(api.storage.get, {}), {
    fallbackData: initial,
    keepPreviousData: true,
  });
  const tell = async (work: () => Promise<string>): Promise<void> => {
    try {
      setSaid({ problem: false, text: await work() });
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
    await jobs.mutate();
  };
  const start = (kind: (typeof acts)[number]['kind']): Promise<void> =>
    tell(async () => {
      const job = await call(api.storage.startJob, { body: { kind } });
      return `“${job.title}” was put in line. Its progress is below.`;
    });
  const cancel = (job: Job): Promise<void> =>
    tell(async () => {
      const now = await call(api.storage.cancelJob, { jobId: job.id });
      return now.state === 'cancelled'
        ? `“${job.title}” was cancelled before it began.`
        : `“${job.title}” stops at its next step. What it did so far stays.`;
    });
  useKeys(mayTend ? acts.map(({ kind, key, says }) => ({ key, says, run: () => void start(kind) })) : []);
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Storage</h1>
        {mayTend &&
          acts.map(({ kind, says, title }) => (
            <Button
              key={kind}
              variant={kind === 'scrub' ? 'primary' : 'outline-secondary'}
              title={title}
              onClick={() => void start(kind)}
            >
              {says}
            </Button>
          ))}
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <Health scrub={data.scrub} />
      {data.report ? (
        <Figures report={data.report} databaseBytes={data.databaseBytes} />
      ) : (
        <p className="ov-empty">
          Nothing has been counted yet. A worker is doing so now; the figures appear here by themselves.
        </p>
      )}
      <JobList jobs={list} mayTend={mayTend} onCancel={(job) => void cancel(job)} />
      {data.report && <CostTables report={data.report} />}
    </main>
  );
}

/** Versions that are named one by one. */
const MOST_SHOWN = 40;

function Health({ scrub }: { scrub: Storage['scrub'] }): React.ReactNode {
  if (!scrub)
    return (
      <p className="ov-quiet">
        The store has not been checked as a whole yet. Every version is checked whenever it is read.
      </p>
    );
  const { damaged, ledger } = scrub.report;
  const ofLedger = saidOfLedger(scrub.report);
  const sound = isSound(scrub.report);
  return (
    <section aria-label="Last check" className={sound ? 'ov-sound' : 'ov-damage'}>
      <p className="mb-1">
        <i className={`bi ${sound ? 'bi-check2-square' : 'bi-exclamation-octagon'}`} aria-hidden="true" />{' '}
        {saidOfScrub(scrub.report)}{' '}
        <span className="ov-quiet">
          <Ago before="Checked" at={scrub.at} />.
        </span>
      </p>
      {damaged.length > 0 && (
        <ul className="mb-1">
          {damaged.map((d) => (
            <li key={d.fileId}>
              <a href={`/files/${d.fileId}`}>{d.file}</a> in {d.project}: {d.versions.map((v) => `v${v}`).join(', ')}
            </li>
          ))}
        </ul>
      )}
      {damaged.length > 0 && (
        <p className="mb-0">
          These versions are not given out. Restore a backup into an empty installation and check them in from there;
          the guide says how.
        </p>
      )}
      {ofLedger && <p className="mb-1">{ofLedger}</p>}
      {ledger && ledger.wrong.length > 0 && (
        <ul className="mb-0">
          {ledger.wrong.slice(0, MOST_SHOWN).map((wrong) => (
            <li key={`${wrong.fileId} ${wrong.version}`}>
              <a href={`/files/${wrong.fileId}`}>{wrong.file}</a> in {wrong.project}: v{wrong.version} {wrong.why}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Figures({ report, databaseBytes }: { report: StorageReport; databaseBytes: number }): React.ReactNode {
  const { total, saved } = report;
  const reasons: readonly [string, string, number][] = [
    ['Stored as differences', `${total.deltas.toLocaleString('en')} contents`, saved.differences],
    ['Compressed', total.opened ? `${total.opened.toLocaleString('en')} containers opened` : '', saved.compression],
    ['Same content as another version', '', saved.copies],
    ['Parts that another file has too', '', saved.shared],
  ];
  return (
    <section aria-label="Figures" className="ov-figures">
      <div>
        <dl className="ov-sums">
          <div>
            <dt>Kept</dt>
            <dd>{saySize(total.kept)}</dd>
            <dd className="ov-quiet">
              {total.versions.toLocaleString('en')} versions of {total.files.toLocaleString('en')} files
            </dd>
          </div>
          <div>
            <dt>Stored</dt>
            <dd>{saySize(total.stored)}</dd>
            <dd className="ov-quiet">{shareOf(total.stored, total.kept)} of that</dd>
          </div>
          <div>
            <dt>Not needed</dt>
            <dd>{saySize(total.unneeded)}</dd>
            <dd className="ov-quiet">removed after a while</dd>
          </div>
          <div>
            <dt>Whole database</dt>
            <dd>{saySize(databaseBytes)}</dd>
            <dd className="ov-quiet">with thumbnails, comparisons, indexes</dd>
          </div>
        </dl>
        <table className="ov-table" aria-label="What saved how much">
          <thead>
            <tr>
              <th>What saved space</th>
              <th>Saved</th>
              <th aria-label="Share" />
            </tr>
          </thead>
          <tbody>
            {reasons.map(([name, detail, bytes]) => (
              <tr key={name}>
                <td>
                  {name} {detail && <span className="ov-quiet">{detail}</span>}
                </td>
                <td className="ov-mono text-nowrap">{saySize(Math.max(0, bytes))}</td>
                <td className="is-bar">
                  <span style={{ width: `${total.kept ? Math.max(0, (100 * bytes) / total.kept) : 0}%` }} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <BytesOverTime
        caption="Kept and stored, day by day"
        dashed="Kept"
        solid="Stored"
        days={report.overTime.map(({ day, kept, stored }) => ({ at: day, dashed: kept, solid: stored }))}
      />
    </section>
  );
}
