/** The Storage page: figures from the last tally, the last scrub, jobs and their progress. */
import type { Person } from '../../contract/api.ts';
import type { Job, Jobs, Storage } from '../../contract/storage.ts';
import { jobStates, scrubReportSchema, storageReportSchema } from '../../contract/storage.ts';
import { db } from '../db/pool.ts';
import { enqueue } from '../jobs/queue.ts';
import { jobKinds } from '../jobs/registry.ts';
import { scopeOf } from '../people/access.ts';
import { require } from '../people/permissions.ts';
import { notFound, Problem } from '../problem.ts';
import {
  latestReport,
  latestScrub,
  databaseSize,
  openJobs,
  endedJobs,
  jobCounts,
  workersAlive,
  jobRow,
  runningJob,
  cancelRow,
  type JobRow,
  filesSeen,
} from './rows.ts';

/** Figures older than this are counted again when somebody looks, in minutes. */
const STALE = 10;

export async function getStorage(by: Person): Promise<Storage> {
  require(by, 'read');
  const [report, scrub, size] = await Promise.all([latestReport(db()), latestScrub(db()), databaseSize(db())]);
  if (!report || Date.now() - report.at.getTime() > STALE * 60_000)
    await enqueue(db(), { kind: 'tally', key: 'tally' });
  const found = storageReportSchema.safeParse(report?.value);
  const scrubbed = scrubReportSchema.safeParse(scrub?.report);
  return openTo(by, {
    report: found.success ? found.data : null,
    databaseBytes: Number(size?.n ?? 0),
    scrub: scrub && scrubbed.success ? { at: scrub.ended_at.toISOString(), report: scrubbed.data } : null,
  });
}

/** Sums stay; projects and files that are closed to the person are not named. */
async function openTo(by: Person, storage: Storage): Promise<Storage> {
  const scope = await scopeOf(by, 'see');
  if (scope.everywhere) return storage;
  const { report, scrub } = storage;
  const named = [...(report?.files ?? []).map((f) => f.id), ...(scrub?.report.damaged ?? []).map((d) => d.fileId)];
  const open = new Set(await filesSeen(db(), named, scope));
  return {
    ...storage,
    report: report && {
      ...report,
      projects: report.projects.filter((p) => scope.any(p.id)),
      files: report.files.filter((f) => open.has(f.id)),
    },
    scrub: scrub && {
      ...scrub,
      report: { ...scrub.report, damaged: scrub.report.damaged.filter((d) => open.has(d.fileId)) },
    },
  };
}

const jobOf = (r: JobRow): Job => ({
  id: r.id,
  kind: r.kind,
  title: r.title,
  state: r.state,
  doing: r.doing,
  done: Number(r.done),
  total: r.total === null ? null : Number(r.total),
  attempts: r.attempts,
  problem: r.problem,
  report: r.report,
  outcome: r.state === 'done' ? (jobKinds.get(r.kind)?.say?.(r.report) ?? null) : null,
  cancelling: r.cancelling,
  by: r.by,
  createdAt: r.created_at.toISOString(),
  startedAt: r.started_at?.toISOString() ?? null,
  endedAt: r.ended_at?.toISOString() ?? null,
});

/** Titles, problems and reports of jobs name files; whoever may not see all of them is told the kind of work only. */
const unnamed = <R extends JobRow>(row: R): R => ({
  ...row,
  ...(jobKinds.get(row.kind)?.ofStore ? {} : { title: 'Work on a file', doing: '' }),
  problem: null,
  report: null,
});

/** What runs and waits first, then what failed or ended lately. */
export async function listJobs(by: Person): Promise<Jobs> {
  require(by, 'read');
  const [open, ended, counts, workers] = await Promise.all([
    openJobs(db()),
    endedJobs(db()),
    jobCounts(db()),
    workersAlive(db()),
  ]);
  const everywhere = (await scopeOf(by, 'see')).everywhere;
  const named = everywhere ? [...open, ...ended] : [...open, ...ended].map(unnamed);
  const tally = Object.fromEntries(
    jobStates.map((s) => [s, counts.find((c) => c.state === s)?.n ?? 0]),
  ) as Jobs['counts'];
  return { jobs: named.map(jobOf), counts: tally, workers: workers?.n ?? 0 };
}

export async function getJob(by: Person, id: string): Promise<Job> {
  require(by, 'read');
  const row = await jobRow(db(), id);
  if (!row) throw notFound('job');
  return jobOf((await scopeOf(by, 'see')).everywhere ? row : unnamed(row));
}

export async function startJob(by: Person, kind: string): Promise<Job> {
  require(by, 'tend the store');
  if (!jobKinds.get(kind)?.ofStore) throw new Problem(400, 'bad-input', 'There is no such work that can be started.');
  const running = await runningJob(db(), kind);
  if (running) throw new Problem(409, 'running', 'This is running already; its progress is below.');
  return getJob(by, await enqueue(db(), { kind, key: kind, by: by.id }));
}

/** A waiting job is taken back at once; a running one stops at its next step, and what it did so far stays. */
export async function cancelJob(by: Person, id: string): Promise<Job> {
  require(by, 'tend the store');
  const row = await cancelRow(db(), id);
  if (!row) {
    const job = await getJob(by, id);
    throw new Problem(409, 'ended', `This job has ended already: it is ${job.state}.`);
  }
  return getJob(by, id);
}
