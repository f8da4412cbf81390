/** One's own account: password, sessions, second factor. Open also to those who have to change their password first. */
import * as schemas from '../account.ts';
import type { Operations } from '../operation.ts';

export const account = {
  get: {
    method: 'get',
    path: '/account',
    summary: 'Your account: where you are signed in, and how',
    answer: schemas.accountSchema,
    who: 'self',
  },
  setPassword: {
    method: 'put',
    path: '/account/password',
    summary: 'Change your password; your other sessions and your tokens end',
    body: schemas.changePasswordSchema,
    answer: schemas.accountSchema,
    who: 'self',
  },
  endSession: {
    method: 'delete',
    path: '/account/sessions/{sessionId}',
    summary: 'End one of your sessions',
    answer: schemas.accountSchema,
    who: 'self',
  },
  endOtherSessions: {
    method: 'delete',
    path: '/account/sessions',
    summary: 'End your sessions, but for this one',
    answer: schemas.accountSchema,
    who: 'self',
  },
  beginSecondFactor: {
    method: 'post',
    path: '/account/second-factor',
    summary: 'A new secret for an authenticator app; it holds once a code has proved it',
    body: schemas.proveSchema,
    answer: schemas.begunSecondFactorSchema,
    who: 'self',
  },
  confirmSecondFactor: {
    method: 'put',
    path: '/account/second-factor',
    summary: 'Prove the authenticator app with a code; the answer has the recovery codes, once',
    body: schemas.codeSchema,
    answer: schemas.recoveryCodesSchema,
    who: 'self',
  },
  endSecondFactor: {
    method: 'post',
    path: '/account/second-factor/end',
    summary: 'Sign in with the password alone again',
    body: schemas.proveSchema,
    answer: schemas.accountSchema,
    who: 'self',
  },
} as const satisfies Operations;
