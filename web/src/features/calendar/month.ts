/** The days of a month as weeks, from Monday to Sunday (UTC). */

/** A month as “2026-10”, a day as “2026-10-20”. */
export const monthOf = (at: number | string): string => new Date(at).toISOString().slice(0, 7);
export const dayOf = (at: number | string): string => new Date(at).toISOString().slice(0, 10);

/** Weeks of seven days; null for those of other months. */
export function weeksOf(month: string): (string | null)[][] {
  const first = new Date(`${month}-01T00:00:00Z`);
  const length = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  const before = (first.getUTCDay() + 6) % 7;
  const days = Array.from({ length }, (_, k) => `${month}-${String(k + 1).padStart(2, '0')}`);
  const cells = [...new Array<null>(before).fill(null), ...days];
  const weeks = Array.from({ length: Math.ceil(cells.length / 7) }, (_, k) => cells.slice(7 * k, 7 * k + 7));
  return weeks.map((week) => [...week, ...new Array<null>(7 - week.length).fill(null)]);
}

/** The month so many months later, earlier where negative. */
export function monthAfter(month: string, by: number): string {
  const first = new Date(`${month}-01T00:00:00Z`);
  return monthOf(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + by, 1));
}

/** How many fall on each day. */
export function countByDay(moments: readonly number[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const at of moments) counts.set(dayOf(at), (counts.get(dayOf(at)) ?? 0) + 1);
  return counts;
}
