/** Where facts are kept: beside the content that they are about, by their name and version. */
import { db } from '../db/pool.ts';
import { deleteFact, factValue, factValues, insertFact } from './rows.ts';

export interface ShelfPlace {
  readonly contentId: string;
  /** What else tells one value from another: a page, a size; empty for one value a content. */
  readonly detail: string;
}

interface Named {
  readonly name: string;
  readonly version: number;
}

export interface Shelf {
  read(place: ShelfPlace, fact: Named): Promise<Buffer | undefined>;
  write(place: ShelfPlace, fact: Named, value: Buffer): Promise<void>;
  remove(place: ShelfPlace, fact: Named): Promise<void>;
}

/** Longest name of a kind in the table. */
const LONGEST = 60;

const kindOf = ({ name }: Named, { detail }: ShelfPlace): string =>
  (detail ? `${name}.${detail}` : name).slice(0, LONGEST);

const engineOf = ({ name, version }: Named): string => `${name}/${version}`;

export const contentShelf: Shelf = {
  read: (place, fact) => factValue(db(), place.contentId, kindOf(fact, place), engineOf(fact)),
  write: (place, fact, value) => insertFact(db(), place.contentId, kindOf(fact, place), engineOf(fact), value),
  remove: (place, fact) => deleteFact(db(), place.contentId, kindOf(fact, place), engineOf(fact)),
};

/** What is kept of several contents, by their ids. */
export async function shelved(contentIds: readonly string[], fact: Named): Promise<ReadonlyMap<string, Buffer>> {
  const place = { contentId: '', detail: '' };
  const rows = await factValues(db(), contentIds, kindOf(fact, place), engineOf(fact));
  return new Map(rows.map((row) => [row.content_id, row.value]));
}
