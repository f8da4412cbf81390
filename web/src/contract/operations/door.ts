/** Coming in and going out. */
import * as api from '../api.ts';
import type { Operations } from '../operation.ts';

export const door = {
  whoAmI: { method: 'get', path: '/session', summary: 'Who is signed in', answer: api.sessionSchema },
  signIn: {
    method: 'post',
    path: '/session',
    summary: 'Sign in',
    body: api.signInSchema,
    answer: api.sessionSchema,
    who: 'anyone',
  },
  signOut: { method: 'delete', path: '/session', summary: 'Sign out', status: 204, who: 'anyone' },
  makeFirstAdministrator: {
    method: 'post',
    path: '/first-administrator',
    summary: 'Make the first person of an empty installation',
    body: api.firstAdministratorSchema,
    answer: api.sessionSchema,
    status: 201,
    who: 'anyone',
  },
} as const satisfies Operations;
