'use client';
/** What a rule would have done in the past: above all, what somebody went back to all the same. */
import { plural } from '@ovrel/core/plural';
import { sayRule, type KeepingRule } from '@ovrel/core/keeping';
import Link from 'next/link';
import { useMemo } from 'react';
import Button from 'react-bootstrap/Button';
import type { TrialResult } from '../../contract/keeping.ts';
import { BytesOverTime } from '../frame/BytesOverTime.tsx';
import { sayDate, sayMoment, saySize } from '../words.ts';

interface Props {
  readonly trial: TrialResult;
  /** Absent where nothing may be changed. */
  readonly onTake?: ((rule: KeepingRule) => void) | undefined;
}

export function TrialReport({ trial, onTake }: Props): React.ReactNode {
  const { versions, gone, days, proposed, proposedGone } = trial;
  const curve = useMemo(
    () => days.map(({ at, without, withRule }) => ({ at, dashed: without, solid: withRule })),
    [days],
  );
  const last = days.at(-1);
  return (
    <section aria-label="Tried on the past">
      <h2>Tried on the past</h2>
      <p>
        If the rule had held from the beginning, {plural(gone, 'version')} of {versions.toLocaleString('en')} would have
        gone until now
        {last && `: about ${saySize(last.withRule)} would be kept instead of ${saySize(last.without)}`}.
      </p>
      <Missed trial={trial} />
      {gone > 0 && (
        <BytesOverTime caption="What is kept, over time" days={curve} dashed="Without the rule" solid="With the rule" />
      )}
      <Days trial={trial} />
      <p className="mt-3">
        <strong>A rule that keeps little and would have missed none:</strong> {sayRule(proposed)} It would have let go{' '}
        {plural(proposedGone, 'version')}.{' '}
        {onTake && (
          <Button size="sm" variant="outline-secondary" onClick={() => onTake(proposed)}>
            Take this rule
          </Button>
        )}
      </p>
    </section>
  );
}

/** What somebody did, as “by brought forward from” would not say. */
const doneWith: Readonly<Record<string, string>> = {
  'brought forward from': 'brought it forward',
  'carried over from': 'carried parts of it over',
  'taken back to': 'took changes back to it',
  'branched off from': 'branched off from it',
  fetched: 'downloaded it',
};

function Missed({ trial: { wentBack, missed } }: Pick<Props, 'trial'>): React.ReactNode {
  if (wentBack === 0) return <p>Nobody has gone back to an older version here yet.</p>;
  const there = wentBack - missed.length;
  return (
    <>
      <p className={missed.length > 0 ? 'ov-bad' : undefined}>
        <i className={`bi ${missed.length > 0 ? 'bi-exclamation-triangle' : 'bi-check2'}`} aria-hidden="true" />{' '}
        Somebody went back to an older version {plural(wentBack, 'time')}.{' '}
        {missed.length === 0 ? 'Each would still have been there.' : `${there} would still have been there; these not:`}
      </p>
      {missed.length > 0 && (
        <table className="ov-table mb-3" aria-label="What would have been missed">
          <thead>
            <tr>
              <th>Version</th>
              <th>Would have gone</th>
              <th>Who went back to it</th>
              <th>When</th>
            </tr>
          </thead>
          <tbody>
            {missed.map((m) => (
              <tr key={`${m.versionId} ${m.at} ${m.how}`}>
                <td>
                  <Link href={`/files/${m.fileId}?v=${m.versionId}`}>
                    {m.file} v{m.number}
                  </Link>
                </td>
                <td className="text-nowrap">{sayMoment(m.gone)}</td>
                <td>
                  {m.by} {doneWith[m.how] ?? 'went back to it'}
                </td>
                <td className="text-nowrap">{sayMoment(m.at)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

function Days({ trial: { going } }: Pick<Props, 'trial'>): React.ReactNode {
  if (going.length === 0) return null;
  return (
    <details>
      <summary>What would have gone when: {plural(going.length, 'day')} on which something would have gone</summary>
      <ul className="ov-days">
        {going.map(({ at, versions }) => (
          <li key={at}>
            {sayDate(at)}: {plural(versions, 'version')}
          </li>
        ))}
      </ul>
    </details>
  );
}
