/** Saving as one goes, and leaving without keeping. */
import { versionSchema } from '../api.ts';
import type { Operations } from '../operation.ts';
import * as shape from '../saving.ts';

export const saving = {
  save: {
    method: 'post',
    path: '/files/{fileId}/saves',
    summary:
      'Save work as it goes: the newest version for everybody where saves count at once, else beside the main line until it is checked in. What was made of an older version never takes the place of a newer one',
    form: shape.saveFormSchema,
    answer: shape.savedSchema,
    status: 201,
  },
  leave: {
    method: 'post',
    path: '/versions/{versionId}/leave',
    summary: 'Back to how it was when the sitting of this save began; nothing is removed',
    body: shape.leaveSchema,
    answer: versionSchema,
    status: 201,
  },
} as const satisfies Operations;
