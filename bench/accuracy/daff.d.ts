/** What is used of a package that comes without types. */
declare module 'daff' {
  class TableView {
    constructor(rows: (string | number | boolean | null)[][]);
  }
  class CompareFlags {
    addPrimaryKey(column: string): void;
  }
  class TableDiff {
    constructor(alignment: unknown, flags: CompareFlags);
    hilite(output: TableView): void;
  }
  const daff: {
    readonly TableView: typeof TableView;
    readonly CompareFlags: typeof CompareFlags;
    readonly TableDiff: typeof TableDiff;
    compareTables(a: TableView, b: TableView, flags: CompareFlags): { align(): unknown };
  };
  export default daff;
}
