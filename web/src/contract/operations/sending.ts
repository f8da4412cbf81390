/** Sending large contents in parts. */
import type { Operations } from '../operation.ts';
import * as shape from '../sending.ts';

export const sending = {
  begin: {
    method: 'post',
    path: '/uploads',
    summary:
      'Begin to send a large content in parts. Any form takes it afterwards in place of a file: a file part of the type application/vnd.ovrel.sent+json with {"upload", "deltaOf"?, "sha256"?}. It is kept for a day after its last part',
    body: shape.newUploadSchema,
    answer: shape.uploadSchema,
    status: 201,
  },
  look: {
    method: 'get',
    path: '/uploads/{uploadId}',
    summary: 'How much of a content is here',
    answer: shape.uploadSchema,
  },
  part: {
    method: 'post',
    path: '/uploads/{uploadId}/parts',
    summary: 'The next part, of at most 16 MB: all of it is kept, or none',
    form: shape.partFormSchema,
    answer: shape.uploadSchema,
  },
} as const satisfies Operations;
