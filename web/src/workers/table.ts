/** A web worker: fetches tables, and finds out which row and column of one is which of the other, away from the page. */
import { pairSheetLists, unpackTable, type Sheet, type TablePairing } from '@ovrel/core/table';

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
  const response = await fetch(address);
  if (!response.ok) {
    const said = (await response.json().catch(() => undefined)) as { detail?: string } | undefined;
    throw new Error(said?.detail ?? 'The table could not be fetched.');
  }
  if (!response.body) throw new Error('The table came without content.');
  // eslint-disable-next-line no-restricted-syntax -- the browser's own name
  const sheets = unpackTable(await new Response(response.body.pipeThrough(new DecompressionStream('gzip'))).text());
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
