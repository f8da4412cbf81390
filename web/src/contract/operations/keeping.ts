/** What is kept how long, and what goes. */
import * as shape from '../keeping.ts';
import type { Operations } from '../operation.ts';

export const keeping = {
  get: {
    method: 'get',
    path: '/projects/{projectId}/keeping',
    summary: 'The keeping rule that holds at a place, and where it is said',
    query: shape.keepingPlaceSchema,
    answer: shape.keepingSchema,
  },
  set: {
    method: 'put',
    path: '/projects/{projectId}/keeping',
    summary: 'Say what is kept how long at a place; nothing is removed before the next sweep',
    body: shape.setKeepingSchema,
    answer: shape.keepingSchema,
    who: 'person',
  },
  try: {
    method: 'post',
    path: '/projects/{projectId}/keeping/trial',
    summary: 'What a rule would have done if it had held from the beginning; nothing is changed',
    body: shape.trialAskedSchema,
    answer: shape.trialSchema,
    looks: true,
  },
  going: {
    method: 'get',
    path: '/projects/{projectId}/going',
    summary: 'Versions that will go within some days',
    query: shape.goingQuerySchema,
    answer: shape.goingListSchema,
  },
  mine: {
    method: 'get',
    path: '/going',
    summary: 'Versions that you made and that will go within some days',
    query: shape.goingQuerySchema,
    answer: shape.goingListSchema,
  },
  ofFile: {
    method: 'get',
    path: '/files/{fileId}/going',
    summary: 'Which versions of a file will go, and when',
    answer: shape.goingOfFileSchema,
  },
  fate: {
    method: 'get',
    path: '/versions/{versionId}/fate',
    summary: 'Whether a version goes by the rules, when, and what holds it',
    answer: shape.fateSchema,
  },
  sweep: {
    method: 'get',
    path: '/projects/{projectId}/sweep',
    summary: 'What a sweep would remove now, and how the one that runs gets on',
    answer: shape.sweepSchema,
  },
  startSweep: {
    method: 'post',
    path: '/projects/{projectId}/sweep',
    summary: 'Remove now what the rules let go; it happens by itself every night',
    answer: shape.sweepStartedSchema,
    status: 202,
    who: 'person',
  },
  cancelSweep: {
    method: 'delete',
    path: '/projects/{projectId}/sweep',
    summary: 'End the sweep that runs; what is removed already stays so',
    status: 204,
    who: 'person',
  },
} as const satisfies Operations;
