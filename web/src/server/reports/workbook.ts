/** A comparison as a workbook: its changes, and their causes. */
import writeXlsxFile from 'write-excel-file/node';
import { reportColumns, reportRows, type Comparison } from '@ovrel/core';

export async function workbook(comparison: Comparison): Promise<Uint8Array> {
  const bold = (value: string): { value: string; fontWeight: 'bold' } => ({ value, fontWeight: 'bold' });
  const cell = (value: string | number): { value: string | number; type: typeof String | typeof Number } =>
    typeof value === 'number' ? { value, type: Number } : { value, type: String };
  const changes = [reportColumns.map(bold), ...reportRows(comparison).map((row) => row.map(cell))];
  const causes = [
    ['weight', 'kind', 'cause', 'parts'].map(bold),
    ...comparison.causes.map((c) => [c.weight, c.kind, c.sentence, c.parts].map(cell)),
  ];
  const made = writeXlsxFile([
    {
      data: changes,
      sheet: 'Changes',
      columns: [8, 14, 14, 30, 18, 12, 10, 18, 30, 30, 10, 8, 50, 10, 10, 10, 10].map((width) => ({ width })),
      stickyRowsCount: 1,
    },
    { data: causes, sheet: 'Causes', columns: [10, 14, 80, 10].map((width) => ({ width })), stickyRowsCount: 1 },
  ]);
  return new Uint8Array(await made.toBuffer());
}
