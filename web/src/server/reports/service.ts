/** The comparison of two versions as a file: a document, a table, data, or a drawing of the changes alone. */
import writeXlsxFile from 'write-excel-file/node';
import { csvTable, reportColumns, reportRows, type Comparison } from '@ovrel/core';
import { comparisonSchema } from '@ovrel/core/contract';
import type { Person } from '../../contract/api.ts';
import type { ReportForm } from '../../contract/report.ts';
import { runTask } from '../compute/pool.ts';
import { db } from '../db/pool.ts';
import { attachment } from '../http/disposition.ts';
import { Problem } from '../problem.ts';
import { sourceOf } from '../facts/subject.ts';
import { compareVersions } from '../versions/comparisons.ts';
import { versionRow, type VersionRow } from '../versions/rows.ts';
import { reportPdf } from './pdf.ts';
import { fileAndProject } from './rows.ts';

const types: Readonly<Record<ReportForm, string>> = {
  pdf: 'application/pdf',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
  dxf: 'image/vnd.dxf',
  svg: 'image/svg+xml; charset=utf-8',
};

export async function reportOf(by: Person, a: string, b: string, as: ReportForm): Promise<Response> {
  const { comparison } = await compareVersions(by, a, b);
  const [rowA, rowB] = await Promise.all([versionRow(a), versionRow(b)]);
  const file = await fileAndProject(db(), rowB.file_id);
  const name = file?.name ?? 'file';
  const body = await bodyOf(as, comparison, rowA, rowB, name, file?.project ?? '');
  const stem = name.replace(/\.[^.]+$/, '');
  return new Response(Uint8Array.from(body), {
    headers: {
      'content-type': types[as],
      'content-disposition': attachment(`${stem} v${rowA.number} to v${rowB.number}.${as}`),
      'x-content-type-options': 'nosniff',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    },
  });
}

/** The changed parts alone: as a drawing for programs that draw, or as a page. */
const drawnAs = { dxf: 'drawing', svg: 'page' } as const;

async function bodyOf(
  as: ReportForm,
  comparison: Comparison,
  a: VersionRow,
  b: VersionRow,
  file: string,
  project: string,
): Promise<Uint8Array> {
  const text = (s: string): Uint8Array => new TextEncoder().encode(s);
  switch (as) {
    case 'json':
      return text(`${JSON.stringify(comparisonSchema.parse(comparison), null, 2)}\n`);
    case 'csv':
      return text(csvTable(reportColumns, reportRows(comparison)));
    case 'xlsx':
      return workbook(comparison);
    case 'pdf':
      return reportPdf({ comparison, a, b, file, project });
    default: {
      if (comparison.level !== 'parts')
        throw new Problem(
          415,
          'no-drawing',
          `These versions were compared ${comparison.level === 'text' ? 'line by line' : 'byte by byte'}, so there is no drawing of the changes. The table has them all.`,
        );
      return runTask('changes', { a: sourceOf(a), b: sourceOf(b), as: drawnAs[as] });
    }
  }
}

async function workbook(comparison: Comparison): Promise<Uint8Array> {
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
