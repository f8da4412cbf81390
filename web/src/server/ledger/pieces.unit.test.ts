import type { LedgerEntry } from '../../contract/desk.ts';
import { csvOf, jsonOf } from './pieces.ts';

const entry = (seq: number, more: Partial<LedgerEntry> = {}): LedgerEntry => ({
  seq,
  at: '2026-11-02T08:30:00.000Z',
  by: { id: '11111111-1111-4111-8111-111111111111', name: 'Ines Calloway' },
  act: 'check in',
  subject: 'Landing plan.svg',
  reason: '',
  from: '',
  projectId: null,
  fileId: null,
  hash: 'ab',
  ...more,
});

async function* pieces(...groups: readonly (readonly LedgerEntry[] | Error)[]): AsyncGenerator<readonly LedgerEntry[]> {
  for (const group of groups) {
    if (group instanceof Error) throw group;
    yield group;
  }
}

async function text(of: AsyncIterable<Uint8Array>): Promise<string> {
  const parts: Uint8Array[] = [];
  for await (const part of of) parts.push(part);
  return Buffer.concat(parts).toString();
}

test('a table has its head once, and a row for each entry', async () => {
  const rows = (await text(csvOf(pieces([entry(1), entry(2)], [entry(3, { by: null, reason: 'a, "b"' })])))).trim();
  const [head, ...rest] = rows.split(/\r?\n/);
  expect(head).toBe('seq,at,by,act,subject,reason,from,project,file,hash');
  expect(rest.map((row) => row.split(',')[0])).toEqual(['1', '2', '3']);
  expect(rest[2]).toContain('"a, ""b"""');
});

test('without entries the table is its head, and the list is empty', async () => {
  expect((await text(csvOf(pieces()))).trim()).toBe('seq,at,by,act,subject,reason,from,project,file,hash');
  expect(JSON.parse(await text(jsonOf(pieces())))).toEqual([]);
});

test('the list is JSON, however the entries come', async () => {
  const all = [entry(1), entry(2), entry(3)];
  expect(JSON.parse(await text(jsonOf(pieces(all.slice(0, 1), all.slice(1)))))).toEqual(all);
});

test.each([
  ['table', csvOf],
  ['list', jsonOf],
])('a %s that cannot be read fails before its head is given out', async (_, as) => {
  await expect(as(pieces(new Error('no connection'))).next()).rejects.toThrow('no connection');
});
