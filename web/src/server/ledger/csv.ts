/** The ledger for other programs: CSV (RFC 4180) or a JSON array, in pieces. */
import type { LedgerEntry } from '../../contract/desk.ts';

const HEAD = ['seq', 'at', 'by', 'act', 'subject', 'reason', 'from', 'project', 'file', 'hash'];

/** A cell; what a spreadsheet would take for a formula is made text. */
function cell(value: string | number | null): string {
  const text = String(value ?? '');
  const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

const row = (e: LedgerEntry): string =>
  [e.seq, e.at, e.by?.name ?? '', e.act, e.subject, e.reason, e.from, e.projectId, e.fileId, e.hash]
    .map(cell)
    .join(',');

export async function* csvOf(
  pieces: AsyncIterable<readonly LedgerEntry[]>,
  as: 'csv' | 'json',
): AsyncGenerator<Uint8Array> {
  const utf8 = new TextEncoder();
  let first = true;
  if (as === 'csv') yield utf8.encode(`${HEAD.join(',')}\r\n`);
  for await (const entries of pieces) {
    const text =
      as === 'csv'
        ? entries.map((e) => `${row(e)}\r\n`).join('')
        : `${first ? '[' : ','}\n${entries.map((e) => JSON.stringify(e)).join(',\n')}`;
    first = false;
    yield utf8.encode(text);
  }
  if (as === 'json') yield utf8.encode(first ? '[]\n' : '\n]\n');
}
