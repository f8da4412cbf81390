/** Timing on noisy machines: alternate what is compared, and take the median. */
import { readFileSync } from 'node:fs';

export const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

export async function time(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Runs both in turn, `rounds` times; gives the median of each in milliseconds and the median of the ratios. */
export async function against(
  baseline: () => unknown,
  subject: () => unknown,
  rounds: number,
): Promise<{ baseline: number; subject: number; ratio: number }> {
  const a: number[] = [];
  const b: number[] = [];
  for (let i = 0; i < rounds; i++) {
    a.push(await time(baseline));
    b.push(await time(subject));
  }
  return { baseline: median(a), subject: median(b), ratio: median(b.map((t, i) => t / (a[i] as number))) };
}

export const line = (what: string, value: string, goal = ''): void =>
  console.log(`${what.padEnd(74)} ${value.padStart(10)}  ${goal}`);
export const ms = (n: number): string => `${Math.round(n)} ms`;

/** Memory that a process holds at this moment. */
export const residentMegabytes = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? NaN) / 1024;
