/** Who did what. */
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const ledger = {
  read: {
    method: 'get',
    path: '/ledger',
    summary: 'Who did what, newest first; or all that matches as CSV or JSON (`as`)',
    query: desk.ledgerQuerySchema,
    answer: desk.ledgerSchema,
  },
} as const satisfies Operations;
