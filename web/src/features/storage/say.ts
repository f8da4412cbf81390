import type { Job, ScrubReport } from '../../contract/storage.ts';
import { saySize } from '../words.ts';

/** "6.4 %"; "–" of nothing. */
export const shareOf = (part: number, whole: number): string =>
  whole > 0 ? `${((100 * part) / whole).toFixed(part / whole < 0.1 ? 1 : 0)} %` : '–';

const count = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`;

export function saidOfScrub(report: ScrubReport): string {
  if (report.damagedChunks || report.damagedContents) {
    const versions = report.damaged.reduce((n, d) => n + d.versions.length, 0);
    return `${count(report.damagedChunks, 'stored piece')} ${report.damagedChunks === 1 ? 'is' : 'are'} damaged: ${count(versions, 'version')} of ${count(report.damaged.length, 'file')} cannot be given out.`;
  }
  return `All is well: ${count(report.chunks, 'stored piece')} (${saySize(report.storedBytes)}) and ${count(report.contents, 'content')} (${saySize(report.contentBytes)}) were read and match their hashes.`;
}

const words: Readonly<Record<Job['state'], string>> = {
  waiting: 'waiting',
  running: 'running',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** Where a job stands, in a few words. */
export function saidOfJob(job: Job): string {
  if (job.state === 'running') {
    const progress = job.total
      ? ` ${job.done.toLocaleString('en')} of ${job.total.toLocaleString('en')}`
      : job.done
        ? ` ${job.done.toLocaleString('en')}`
        : '';
    return `${job.cancelling ? 'stopping' : job.doing || 'running'}${job.doing ? progress : ''}${job.attempts > 1 ? ` (attempt ${job.attempts})` : ''}`;
  }
  if (job.state === 'failed') return `failed: ${job.problem ?? 'no reason is known'}`;
  if (job.state === 'waiting' && job.problem) return `will be tried again: ${job.problem}`;
  const report = job.report as { chunks?: number; bytes?: number; packed?: number; damagedChunks?: number } | null;
  if (job.state === 'done' && job.kind === 'collect' && report)
    return report.chunks
      ? `done: ${count(report.chunks, 'piece')} removed, ${saySize(report.bytes ?? 0)}`
      : 'done: there was nothing to remove';
  if (job.state === 'done' && job.kind === 'scrub' && report)
    return report.damagedChunks ? 'done: damage was found' : 'done: all is well';
  return words[job.state];
}
