/** What a version needs, and what needs it. */
import * as desk from '../desk.ts';
import type { Operations } from '../operation.ts';

export const references = {
  list: {
    method: 'get',
    path: '/versions/{versionId}/references',
    summary: 'What a version needs, and which files need its file',
    answer: desk.referencesSchema,
  },
  archive: {
    method: 'get',
    path: '/versions/{versionId}/with-references',
    summary: 'A version with all that it needs, as a ZIP',
    query: desk.withReferencesQuerySchema,
    bytes: 'application/zip',
  },
  add: {
    method: 'post',
    path: '/files/{fileId}/references',
    summary: 'Say that a file needs another one',
    body: desk.addReferenceSchema,
    status: 204,
  },
  remove: {
    method: 'delete',
    path: '/files/{fileId}/references',
    summary: 'Take such a reference back',
    body: desk.removeReferenceSchema,
    status: 204,
  },
} as const satisfies Operations;
