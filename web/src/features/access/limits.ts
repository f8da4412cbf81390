import type { Here } from '../../contract/access.ts';

/** Why not, and whom to ask. */
export const sayLimits = (here: Here, cannot: string): string =>
  `${cannot}: ${here.as}.${here.ask.length ? ` Ask ${here.ask.map((p) => p.name).join(' or ')} for more.` : ''}`;
