/** Lines of a file, and files made from a version. */
import type { Operations } from '../operation.ts';
import { versionSchema } from '../api.ts';
import * as shape from '../lines.ts';

export const lines = {
  start: {
    method: 'post',
    path: '/versions/{versionId}/lines',
    summary: 'Start a line from a version, with its content as the first version of the line',
    body: shape.startLineSchema,
    answer: versionSchema,
    status: 201,
  },
  branchFile: {
    method: 'post',
    path: '/versions/{versionId}/files',
    summary: 'Make a version a file of its own; the one that it comes from is not touched',
    body: shape.branchFileSchema,
    answer: shape.branchedFileSchema,
    status: 201,
  },
  change: {
    method: 'patch',
    path: '/lines/{lineId}',
    summary: 'Rename a line, close it, or open it again',
    body: shape.changeLineSchema,
    answer: shape.lineSchema,
  },
  lineage: {
    method: 'get',
    path: '/files/{fileId}/lineage',
    summary: 'What the file was made from, and which files were made from it',
    answer: shape.lineageSchema,
  },
} as const satisfies Operations;
