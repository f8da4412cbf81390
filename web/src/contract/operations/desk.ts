/** What a desk asks about the files on it. */
import { z } from 'zod';
import * as schemas from '../desk.ts';
import type { Operations } from '../operation.ts';

export const desk = {
  files: {
    method: 'get',
    path: '/projects/{projectId}/desk',
    summary: 'Every file of a project with its path, newest version and holder',
    answer: z.array(schemas.deskFileSchema),
  },
  known: {
    method: 'post',
    path: '/projects/{projectId}/known',
    summary: 'Which versions of their files contents on a desk are; those that are none are left out',
    body: schemas.askKnownSchema,
    answer: z.array(schemas.knownSchema),
    looks: true,
  },
  resembling: {
    method: 'post',
    path: '/projects/{projectId}/resembling',
    summary: 'For files that a desk does not know: which file of the project each is most like',
    body: schemas.askResemblingSchema,
    answer: z.array(schemas.resemblingSchema),
    looks: true,
  },
} as const satisfies Operations;
