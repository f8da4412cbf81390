import { useCallback, useState } from 'react';

/** State that belongs to a pair of versions: another pair begins with the initial value again. */
export function usePairState<T>(pair: string, initial: T): readonly [T, (next: T | ((before: T) => T)) => void] {
  const [kept, setKept] = useState({ pair, value: initial });
  const set = useCallback(
    (next: T | ((before: T) => T)): void =>
      setKept((all) => {
        const before = all.pair === pair ? all.value : initial;
        return { pair, value: next instanceof Function ? next(before) : next };
      }),
    [pair, initial],
  );
  return [kept.pair === pair ? kept.value : initial, set];
}
