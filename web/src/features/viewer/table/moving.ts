/** Keys that go from cell to cell. */

interface At {
  readonly at: number;
  readonly column: number;
}

interface Extent {
  readonly rows: number;
  readonly columns: number;
}

/** Rows that a page has. */
const PAGE = 20;

/** Undefined for keys that do not move. */
export function stepped(key: string, { at, column }: At, { rows, columns }: Extent): At | undefined {
  const ways: Readonly<Record<string, At>> = {
    ArrowDown: { at: at + 1, column },
    ArrowUp: { at: at - 1, column },
    ArrowLeft: { at, column: column - 1 },
    ArrowRight: { at, column: column + 1 },
    PageDown: { at: at + PAGE, column },
    PageUp: { at: at - PAGE, column },
    Home: { at, column: 0 },
    End: { at, column: columns - 1 },
  };
  const to = ways[key];
  if (!to || rows === 0 || columns === 0) return undefined;
  const within = (value: number, count: number): number => Math.min(count - 1, Math.max(0, value));
  return { at: within(to.at, rows), column: within(to.column, columns) };
}
