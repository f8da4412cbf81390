/** What is used of a package that comes without types. */
declare module 'daff' {
  type Rows = (string | number | boolean | null)[][];
  interface Flags {
    addPrimaryKey(column: string): void;
  }
  const daff: {
    readonly TableView: new (rows: Rows) => object;
    readonly CompareFlags: new () => Flags;
    readonly TableDiff: new (alignment: unknown, flags: Flags) => { hilite(output: object): void };
    compareTables(a: object, b: object, flags: Flags): { align(): unknown };
  };
  export default daff;
}
