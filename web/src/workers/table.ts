/** A web worker: fetches tables, and finds out which row and column of one is which of the other, away from the page. */
import { pairSheetLists, unpackTable, type Sheet, type TablePairing } from '@ovrel/core/table';
import { unzipped } from './unzipped.ts';

export interface TableOrder {
  readonly a: string | undefined;
  readonly b: string;
}

export interface Tables {
  /** None where only one is shown. */
  readonly a: readonly Sheet[];
  readonly b: readonly Sheet[];
  readonly pairing: TablePairing;
}

export type TableReport =
  { readonly order: TableOrder; readonly tables: Tables } | { readonly order: TableOrder; readonly sentence: string };

const known = new Map<string, readonly Sheet[]>();

async function load(address: string): Promise<readonly Sheet[]> {
  const loaded = known.get(address);
  if (loaded) return loaded;
  const sheets = unpackTable(await (await unzipped(address, 'The table')).text());
  known.set(address, sheets);
  return sheets;
}

async function tablesFor({ a, b }: TableOrder): Promise<Tables> {
  const [sheetsA, sheetsB] = await Promise.all([a === undefined ? [] : load(a), load(b)]);
  return { a: sheetsA, b: sheetsB, pairing: pairSheetLists(sheetsA, sheetsB) };
}

addEventListener('message', ({ data: order }: MessageEvent<TableOrder>) => {
  tablesFor(order).then(
    (tables) => postMessage({ order, tables } satisfies TableReport),
    (error: Error) => postMessage({ order, sentence: error.message } satisfies TableReport),
  );
});
