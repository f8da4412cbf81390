import Button from 'react-bootstrap/Button';
import type { Job, Jobs } from '../../contract/storage.ts';
import { Ago } from '../frame/Ago.tsx';
import { saidOfJob } from './say.ts';
import { Progress } from '../frame/Progress.tsx';

interface Props {
  readonly jobs: Jobs;
  readonly mayTend: boolean;
  readonly onCancel: (job: Job) => void;
}

export function JobList({ jobs, mayTend, onCancel }: Props): React.ReactNode {
  const { waiting, running, failed } = jobs.counts;
  return (
    <section aria-label="Background work">
      <h2>
        Background work{' '}
        <span className="ov-quiet ov-aside">
          {running} running, {waiting} waiting{failed ? `, ${failed} failed` : ''}; {jobs.workers}{' '}
          {jobs.workers === 1 ? 'worker' : 'workers'}
        </span>
      </h2>
      {jobs.workers === 0 && (
        <p role="status">
          <i className="bi bi-exclamation-triangle" aria-hidden="true" /> No worker process is running, so nothing here
          goes on. Check-in, comparing and downloads work all the same.
        </p>
      )}
      <table className="ov-table mb-4" aria-label="Jobs">
        <thead>
          <tr>
            <th>Work</th>
            <th>Where it stands</th>
            <th aria-label="Progress" />
            <th className="is-wide">Asked for by</th>
            <th className="is-wide">When</th>
            <th aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {jobs.jobs.length === 0 && (
            <tr>
              <td colSpan={6} className="ov-quiet">
                Nothing runs or waits.
              </td>
            </tr>
          )}
          {jobs.jobs.map((job) => (
            <tr key={job.id} data-state={job.state}>
              <td className="is-note ov-cut" title={job.title}>
                {job.title}
              </td>
              <td className={job.state === 'failed' ? 'ov-bad' : undefined}>{saidOfJob(job)}</td>
              <td className="is-progress">
                {job.state === 'running' && (
                  <Progress share={job.total ? job.done / job.total : 0} name={`Progress of ${job.title}`} />
                )}
              </td>
              <td className="is-wide">{job.by ?? <span className="ov-quiet">the clock</span>}</td>
              <td className="is-wide text-nowrap ov-quiet">
                <Ago at={job.endedAt ?? job.startedAt ?? job.createdAt} />
              </td>
              <td className="is-acts">
                {mayTend && (job.state === 'running' || job.state === 'waiting') && (
                  <Button
                    variant="link"
                    disabled={job.cancelling}
                    onClick={() => onCancel(job)}
                    aria-label={`Cancel ${job.title}`}
                  >
                    Cancel
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
