import { Readable } from 'node:stream';
import { ledger } from '../../../../contract/operations/ledger.ts';
import { begun } from '../../../../server/http/begun.ts';
import { attachment } from '../../../../server/http/disposition.ts';
import { serve } from '../../../../server/http/serve.ts';
import { csvOf, jsonOf } from '../../../../server/ledger/pieces.ts';
import { everyEntry, readLedger } from '../../../../server/ledger/ledger.ts';

const tables = {
  csv: { mime: 'text/csv; charset=utf-8', piecesOf: csvOf },
  json: { mime: 'application/json', piecesOf: jsonOf },
} as const;

export const GET = serve(ledger.read, async (by, { query: wanted }) => {
  if (!wanted.as) return readLedger(by, wanted);
  const { mime, piecesOf } = tables[wanted.as];
  const pieces = await begun(piecesOf(everyEntry(by, wanted)));
  return new Response(Readable.toWeb(Readable.from(pieces)) as unknown as ReadableStream<Uint8Array>, {
    headers: {
      'content-type': mime,
      'content-disposition': attachment(`ovrel-ledger.${wanted.as}`),
      'cache-control': 'no-store',
    },
  });
});
