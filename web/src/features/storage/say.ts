import type { Job, ScrubReport } from '../../contract/storage.ts';
import { saySize } from '../words.ts';

/** "6.4 %"; "–" of nothing. */
export const shareOf = (part: number, whole: number): string =>
  whole > 0 ? `${((100 * part) / whole).toFixed(part / whole < 0.1 ? 1 : 0)} %` : '–';

const count = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** Whether something was found that is not as it was stored. */
export const isSound = ({ damagedChunks, damaged, ledger }: ScrubReport): boolean =>
  damagedChunks === 0 && damaged.length === 0 && !ledger?.broken && !ledger?.wrong.length;

/** What was found about the ledger; undefined where it holds, or was not looked at. */
export function saidOfLedger({ ledger }: ScrubReport): string | undefined {
  if (ledger?.broken)
    return `The ledger does not hold: entry ${ledger.broken.entry.toLocaleString('en')}: ${ledger.broken.why}.`;
  if (ledger?.wrong.length)
    return `${count(ledger.wrong.length, 'version')} ${ledger.wrong.length === 1 ? 'is' : 'are'} not what the ledger says. Somebody changed the database by hand, or it is damaged.`;
  return undefined;
}

export function saidOfScrub(report: ScrubReport): string {
  if (report.damagedChunks || report.damagedContents) {
    const versions = report.damaged.reduce((n, d) => n + d.versions.length, 0);
    return `${count(report.damagedChunks, 'stored piece')} ${report.damagedChunks === 1 ? 'is' : 'are'} damaged: ${count(versions, 'version')} of ${count(report.damaged.length, 'file')} cannot be given out.`;
  }
  return `All is well: ${count(report.chunks, 'stored piece')} (${saySize(report.storedBytes)}) and ${count(report.contents, 'content')} (${saySize(report.contentBytes)}) were read and match their hashes.${sayVersions(report)}`;
}

const sayVersions = ({ ledger }: ScrubReport): string =>
  ledger && !ledger.broken && ledger.wrong.length === 0
    ? ` ${count(ledger.versions, 'version')} ${ledger.versions === 1 ? 'is' : 'are'} what the ledger says.`
    : '';

const words: Readonly<Record<Job['state'], string>> = {
  waiting: 'waiting',
  running: 'running',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

function saidOfProgress({ done, total }: Job): string {
  if (total) return ` ${done.toLocaleString('en')} of ${total.toLocaleString('en')}`;
  return done ? ` ${done.toLocaleString('en')}` : '';
}

/** Where a job stands, in a few words. */
export function saidOfJob(job: Job): string {
  if (job.state === 'running') {
    const doing = job.cancelling ? 'stopping' : job.doing || 'running';
    const attempt = job.attempts > 1 ? ` (attempt ${job.attempts})` : '';
    return `${doing}${job.doing ? saidOfProgress(job) : ''}${attempt}`;
  }
  if (job.state === 'failed') return `failed: ${job.problem ?? 'no reason is known'}`;
  if (job.state === 'waiting' && job.problem) return `will be tried again: ${job.problem}`;
  if (job.state === 'done' && job.outcome) return `done: ${job.outcome}`;
  return words[job.state];
}
