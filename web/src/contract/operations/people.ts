/** People, and what they set for themselves. */
import { z } from 'zod';
import * as api from '../api.ts';
import * as preferences from '../preferences.ts';
import type { Operations } from '../operation.ts';

export const people = {
  list: {
    method: 'get',
    path: '/people',
    summary: 'Everyone who can sign in (administrators)',
    answer: z.array(api.personSchema),
  },
  add: {
    method: 'post',
    path: '/people',
    summary: 'Add a person (administrators)',
    body: api.newPersonSchema,
    answer: api.personSchema,
    status: 201,
    who: 'person',
  },
  preferences: {
    method: 'get',
    path: '/preferences',
    summary: 'What you set for yourself',
    answer: preferences.preferencesSchema,
    who: 'person',
  },
  setPreferences: {
    method: 'put',
    path: '/preferences',
    summary: 'Set what you do not want to see in comparisons',
    body: preferences.preferencesSchema,
    answer: preferences.preferencesSchema,
    who: 'person',
  },
} as const satisfies Operations;
