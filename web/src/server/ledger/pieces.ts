/** The ledger for other programs, in pieces: a CSV table, or a JSON array. */
import { csvRows } from '@ovrel/core';
import type { LedgerEntry } from '../../contract/desk.ts';

type Pieces = AsyncIterable<readonly LedgerEntry[]>;

const HEAD = ['seq', 'at', 'by', 'act', 'subject', 'reason', 'from', 'project', 'file', 'hash'];
const utf8 = new TextEncoder();

const row = (e: LedgerEntry): (string | number | null)[] => [
  ...[e.seq, e.at, e.by?.name ?? '', e.act, e.subject],
  ...[e.reason, e.from, e.projectId, e.fileId, e.hash],
];

/** The head comes with the first entries: what cannot be read fails before anything is given out. */
export async function* csvOf(pieces: Pieces): AsyncGenerator<Uint8Array, void> {
  let head = csvRows([HEAD]);
  for await (const entries of pieces) {
    yield utf8.encode(head + csvRows(entries.map(row)));
    head = '';
  }
  if (head !== '') yield utf8.encode(head);
}

export async function* jsonOf(pieces: Pieces): AsyncGenerator<Uint8Array, void> {
  let before = '[';
  for await (const entries of pieces) {
    yield utf8.encode(`${before}\n${entries.map((e) => JSON.stringify(e)).join(',\n')}`);
    before = ',';
  }
  yield utf8.encode(before === '[' ? '[]\n' : '\n]\n');
}
