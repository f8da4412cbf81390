/** People, and what they set for themselves. */
import { z } from 'zod';
import * as api from '../api.ts';
import * as preferences from '../preferences.ts';
import * as account from '../account.ts';
import type { Operations } from '../operation.ts';

export const people = {
  list: {
    method: 'get',
    path: '/people',
    summary: 'Everyone who can sign in (administrators)',
    answer: z.array(account.memberSchema),
  },
  add: {
    method: 'post',
    path: '/people',
    summary: 'Add a person (administrators)',
    body: api.newPersonSchema,
    answer: account.memberSchema,
    status: 201,
    who: 'person',
  },
  change: {
    method: 'patch',
    path: '/people/{personId}',
    summary: 'Change name or role, deactivate or activate (administrators)',
    body: account.changePersonSchema,
    answer: account.memberSchema,
    who: 'person',
  },
  remove: {
    method: 'delete',
    path: '/people/{personId}',
    summary: 'Delete a person; what they made stays under their name (administrators)',
    status: 204,
    who: 'person',
  },
  setPassword: {
    method: 'put',
    path: '/people/{personId}/password',
    summary: 'Give somebody a password that they change on signing in; their sessions and tokens end (administrators)',
    body: account.setPasswordSchema,
    answer: account.memberSchema,
    who: 'person',
  },
  endSessions: {
    method: 'delete',
    path: '/people/{personId}/sessions',
    summary: 'End the sessions and tokens of somebody (administrators)',
    answer: account.memberSchema,
    who: 'person',
  },
  endSecondFactor: {
    method: 'delete',
    path: '/people/{personId}/second-factor',
    summary: 'Let somebody who lost their authenticator sign in without (administrators)',
    answer: account.memberSchema,
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
