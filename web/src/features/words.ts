/** Dates, sizes and the like, in the words of the interface. */
const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: 'UTC' });

/** "14 Mar 2027, 09:40" (UTC). */
export const sayTime = (moment: string | number): string => time.format(new Date(moment));
export const sayMoment = (moment: string | number): string => `${sayDate(moment)}, ${time.format(new Date(moment))}`;
export const sayDate = (moment: string | number): string => date.format(new Date(moment)).replace('Sept', 'Sep');

const steps: readonly [number, string][] = [
  [60, 'minute'],
  [3600, 'hour'],
  [86_400, 'day'],
  [604_800, 'week'],
  [2_629_800, 'month'],
  [31_557_600, 'year'],
];

/** "3 days ago"; "just now" below a minute. */
export function sayAgo(moment: string | number, now: number = Date.now()): string {
  const seconds = Math.max(0, (now - new Date(moment).getTime()) / 1000);
  const step = [...steps].reverse().find(([size]) => seconds >= size);
  if (!step) return 'just now';
  const n = Math.floor(seconds / step[0]);
  return `${n} ${step[1]}${n === 1 ? '' : 's'} ago`;
}

export { saySize } from '../say.ts';
