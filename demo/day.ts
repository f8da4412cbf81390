const HOUR = 3_600_000;

/** At an hour so many days after another day; UTC. */
export const day = (start: string, days: number, hour: number): string =>
  new Date(Date.parse(`${start}T00:00:00Z`) + (24 * days + hour) * HOUR).toISOString();
