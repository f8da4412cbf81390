'use client';

import type { GridSheet } from './grid.ts';

interface Props {
  readonly sheets: readonly GridSheet[];
  readonly chosen: string;
  readonly countOf: (name: string) => number;
  readonly onChoose: (name: string) => void;
}

/** The sheets, each with how many changes are on it. */
export function SheetTabs({ sheets, chosen, countOf, onChoose }: Props): React.ReactNode {
  if (sheets.length < 2) return null;
  return (
    <div className="ov-sheets" role="group" aria-label="Sheets">
      {sheets.map(({ name, a, b }) => {
        const count = countOf(name);
        return (
          <button
            key={`${name} ${b ? 'b' : 'a'}`}
            type="button"
            aria-pressed={name === chosen}
            className={b ? undefined : 'is-removed'}
            onClick={() => onChoose(name)}
          >
            {name}
            {(b ?? a)?.isHidden && <span className="ov-quiet"> hidden</span>}
            {count > 0 && <span className="ov-sheet-count"> {count.toLocaleString('en')}</span>}
          </button>
        );
      })}
    </div>
  );
}
