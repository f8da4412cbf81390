/** A table as viewers need it, as JSON. */
import type { CellExtra, CellValue, Sheet, Workbook } from '../../model/workbook.ts';

/** A sheet without maps and sets. */
export interface PackedSheet {
  readonly name: string;
  readonly isHidden: boolean;
  readonly columns: number;
  readonly values: readonly (readonly CellValue[])[];
  readonly extras: readonly (readonly [number, CellExtra])[];
  readonly hiddenRows: readonly number[];
  readonly hiddenColumns: readonly number[];
  readonly widths: readonly (readonly [number, number])[];
}

export const packTable = ({ sheets }: Workbook): Uint8Array =>
  new TextEncoder().encode(
    JSON.stringify(
      sheets.map(({ name, isHidden, columns, values, extras, hiddenRows, hiddenColumns, widths }): PackedSheet => ({
        name,
        isHidden,
        columns,
        values,
        extras: [...extras],
        hiddenRows: [...hiddenRows],
        hiddenColumns: [...hiddenColumns],
        widths: [...widths],
      })),
    ),
  );

export const unpackTable = (packed: string): Sheet[] =>
  (JSON.parse(packed) as PackedSheet[]).map((sheet) => ({
    ...sheet,
    extras: new Map(sheet.extras),
    hiddenRows: new Set(sheet.hiddenRows),
    hiddenColumns: new Set(sheet.hiddenColumns),
    widths: new Map(sheet.widths),
    merged: [],
  }));
