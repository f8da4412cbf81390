import { Readable } from 'node:stream';
import { ledgerQuerySchema, ledgerSchema } from '../../../../contract/desk.ts';
import { json, query, route } from '../../../../server/http/handler.ts';
import { csvOf } from '../../../../server/ledger/csv.ts';
import { everyEntry, readLedger } from '../../../../server/ledger/ledger.ts';

export const GET = route(async (by, { url }) => {
  const wanted = query(url, ledgerQuerySchema);
  if (!wanted.as) return json(ledgerSchema, await readLedger(by, wanted));
  const pieces = csvOf(everyEntry(by, wanted), wanted.as);
  return new Response(Readable.toWeb(Readable.from(pieces)) as unknown as ReadableStream<Uint8Array>, {
    headers: {
      'content-type': wanted.as === 'csv' ? 'text/csv; charset=utf-8' : 'application/json',
      'content-disposition': `attachment; filename="ovrel-ledger.${wanted.as}"`,
      'cache-control': 'no-store',
    },
  });
});
