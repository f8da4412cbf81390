import { z } from 'zod';

const reportForms = ['pdf', 'xlsx', 'csv', 'json', 'dxf', 'svg'] as const;
export const reportQuerySchema = z.object({
  a: z.uuid(),
  b: z.uuid(),
  as: z
    .enum(reportForms)
    .describe(
      'pdf: a document with pictures; xlsx, csv: a row a change; json: as the comparison; dxf, svg: the changed parts alone, A and B on layers of their own',
    ),
});
export type ReportForm = (typeof reportForms)[number];
