import { createContext, useContext } from 'react';

/** A context whose value is always there: using it outside its provider is a mistake of ours, and says so. */
export function contextOf<T>(name: string): readonly [React.Provider<T | undefined>, () => T] {
  const context = createContext<T | undefined>(undefined);
  const use = (): T => {
    const value = useContext(context);
    if (value === undefined) throw new Error(`${name} is used outside its provider.`);
    return value;
  };
  return [context.Provider, use];
}
