import { useDeferredValue, useState } from 'react';
import { isFiltering, NO_FILTER, queryOf, type Filter } from './filter.ts';

export interface Filtering {
  readonly filter: Filter;
  readonly setFilter: (filter: Filter) => void;
  /** What the server is asked with: it comes after what is typed. */
  readonly query: ReturnType<typeof queryOf>;
  readonly isFiltered: boolean;
}

/** The filter of a history. */
export function useFilter(): Filtering {
  const [filter, setFilter] = useState(NO_FILTER);
  const asked = useDeferredValue(filter);
  return { filter, setFilter, query: queryOf(asked), isFiltered: isFiltering(asked) };
}
