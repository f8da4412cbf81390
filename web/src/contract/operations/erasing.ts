/** Removing versions for good. */
import type { Operations } from '../operation.ts';
import * as shape from '../erasing.ts';

export const erasing = {
  preview: {
    method: 'get',
    path: '/versions/{versionId}/erase-back',
    summary: 'What would go if all versions after this one were erased',
    answer: shape.erasePreviewSchema,
  },
  erase: {
    method: 'post',
    path: '/versions/{versionId}/erase-back',
    summary:
      'Remove all versions of the line after this one for good; the ledger keeps who, when, why and their hashes',
    body: shape.eraseSchema,
    answer: shape.erasedSchema,
  },
} as const satisfies Operations;
