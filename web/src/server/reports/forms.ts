/** The forms in which a comparison can be had as a file. A new form is one entry here, and its name in the contract. */
import { csvTable, reportColumns, reportRows, type Comparison } from '@ovrel/core';
import { comparisonSchema, levelCards } from '@ovrel/core/contract';
import type { ReportForm } from '../../contract/report.ts';
import { runTask } from '../compute/pool.ts';
import { sourceOf } from '../facts/subject.ts';
import { Problem } from '../problem.ts';
import type { VersionRow } from '../versions/rows.ts';
import { reportPdf } from './pdf.ts';
import { workbook } from './workbook.ts';

/** What a report is about. */
export interface Reported {
  readonly comparison: Comparison;
  readonly a: VersionRow;
  readonly b: VersionRow;
  /** Names of the file and of its project. */
  readonly file: string;
  readonly project: string;
}

interface Form {
  readonly mime: string;
  readonly make: (reported: Reported) => Promise<Uint8Array> | Uint8Array;
}

const utf8 = new TextEncoder();

/** The changed parts alone. */
const changesAs =
  (as: 'drawing' | 'page') =>
  ({ comparison, a, b }: Reported): Promise<Uint8Array> => {
    if (comparison.level === 'parts') return runTask('changes', { a: sourceOf(a), b: sourceOf(b), as });
    throw new Problem(
      415,
      'no-drawing',
      `These versions were compared ${levelCards[comparison.level].how}, so there is no drawing of the changes. The table has them all.`,
    );
  };

export const forms: Readonly<Record<ReportForm, Form>> = {
  pdf: { mime: 'application/pdf', make: reportPdf },
  xlsx: {
    mime: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    make: ({ comparison }) => workbook(comparison),
  },
  csv: {
    mime: 'text/csv; charset=utf-8',
    make: ({ comparison }) => utf8.encode(csvTable(reportColumns, reportRows(comparison))),
  },
  json: {
    mime: 'application/json',
    make: ({ comparison }) => utf8.encode(`${JSON.stringify(comparisonSchema.parse(comparison), null, 2)}\n`),
  },
  dxf: { mime: 'image/vnd.dxf', make: changesAs('drawing') },
  svg: { mime: 'image/svg+xml; charset=utf-8', make: changesAs('page') },
};
