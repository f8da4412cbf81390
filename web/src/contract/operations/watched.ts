/** Folders on the server that are looked at at intervals; administrators set them. */
import * as shape from '../watched.ts';
import type { Operations } from '../operation.ts';

export const watched = {
  list: {
    method: 'get',
    path: '/watched',
    summary: 'Watched folders, and how the last look at each went',
    answer: shape.watchedListSchema,
    who: 'person',
  },
  make: {
    method: 'post',
    path: '/watched',
    summary: 'Watch a folder of the server: what is new in it becomes backups of files of a project',
    body: shape.newWatchedSchema,
    answer: shape.watchedSchema,
    status: 201,
    who: 'person',
  },
  remove: {
    method: 'delete',
    path: '/watched/{watchedId}',
    summary: 'Watch a folder no more; what came from it stays',
    who: 'person',
  },
  look: {
    method: 'post',
    path: '/watched/{watchedId}/look',
    summary: 'Look at a watched folder now',
    answer: shape.lookedSchema,
    who: 'person',
  },
} as const satisfies Operations;
