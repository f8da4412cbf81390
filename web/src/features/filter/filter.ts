/** Filters of versions, as a person sets them. */
import type { z } from 'zod';
import { filterKinds, type FilterKind, type versionFilterSchema } from '../../contract/version-filter.ts';

export interface Filter {
  /** Kinds that are shown. */
  readonly kinds: ReadonlySet<FilterKind>;
  /** Empty: everybody. */
  readonly person: string;
  readonly words: string;
  /** Days as 2026-10-20; empty: any. */
  readonly from: string;
  readonly to: string;
}

export const NO_FILTER: Filter = { kinds: new Set(filterKinds), person: '', words: '', from: '', to: '' };

export const isFiltering = ({ kinds, person, words, from, to }: Filter): boolean =>
  kinds.size < filterKinds.length || [person, words.trim(), from, to].some((text) => text !== '');

/** As the server is asked. */
export function queryOf({ kinds, person, words, from, to }: Filter): z.input<typeof versionFilterSchema> {
  return {
    kinds: kinds.size < filterKinds.length ? [...kinds].join(',') : undefined,
    person: person || undefined,
    words: words.trim() || undefined,
    from: from || undefined,
    to: to || undefined,
  };
}

/** Shows a kind, or does not. */
export function toggled(filter: Filter, kind: FilterKind): Filter {
  const kinds = new Set(filter.kinds);
  if (!kinds.delete(kind)) kinds.add(kind);
  return { ...filter, kinds };
}
