/** What changed between two versions. */
import * as api from '../api.ts';
import * as report from '../report.ts';
import type { Operations } from '../operation.ts';

export const comparisons = {
  pages: {
    method: 'get',
    path: '/comparisons/pages',
    summary:
      'Which pages of two PDF documents changed, before it is known what changed on them. With “Accept: application/x-ndjson” lines of JSON come while the documents are read, each with what is known so far',
    query: api.pairQuerySchema,
    answer: api.pageListSchema,
  },
  unlock: {
    method: 'post',
    path: '/comparisons/unlock',
    summary: 'What changed between two versions of which one or both are locked with a password',
    body: api.unlockComparisonSchema,
    answer: api.comparisonResponseSchema,
    looks: true,
  },
  report: {
    method: 'get',
    path: '/comparisons/report',
    summary: 'What changed between two versions, as a file',
    query: report.reportQuerySchema,
    bytes: 'application/octet-stream',
  },
  who: {
    method: 'get',
    path: '/comparisons/who',
    summary: 'Who made each change between two versions of one line',
    query: api.compareQuerySchema,
    answer: api.whoSchema,
  },
  difference: {
    method: 'get',
    path: '/comparisons/difference',
    summary:
      'How much each square of 4 × 4 pixels differs between two pictures: bytes of 0.4 (CIEDE2000), first as seen, then beyond noise',
    query: api.pairQuerySchema,
    bytes: 'application/octet-stream',
  },
  get: {
    method: 'get',
    path: '/comparisons',
    summary: 'What changed between two versions',
    query: api.compareQuerySchema,
    answer: api.comparisonResponseSchema,
  },
} as const satisfies Operations;
