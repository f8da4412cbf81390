/** People as administrators see them, and what everybody sees of their own account. */
import { z } from 'zod';
import { newPersonSchema, personSchema } from './api.ts';

const id = z.uuid();
const moment = z.iso.datetime();

export const memberSchema = personSchema.extend({
  state: z.enum(['active', 'deactivated']),
  secondFactor: z.boolean().describe('Signing in takes a code of an authenticator app, too'),
  temporary: z.boolean().describe('The password was set by somebody else and has to be changed'),
  seenAt: moment.nullable().describe('The last request in a session that is still open'),
  sessions: z.number().int(),
  tokens: z.number().int().describe('Access tokens that hold'),
});

export const changePersonSchema = z
  .object({
    name: newPersonSchema.shape.name,
    role: newPersonSchema.shape.role,
    state: memberSchema.shape.state,
  })
  .partial();

export const setPasswordSchema = z.object({ password: newPersonSchema.shape.password });

const own = z.string().max(200).describe('Your password as it is');

export const changePasswordSchema = setPasswordSchema.extend({ own });
export const proveSchema = z.object({ own });

const sessionSchema = z.object({
  id,
  startedAt: moment,
  seenAt: moment,
  origin: z.string().describe('Address and program'),
  current: z.boolean().describe('The one that asks'),
});

export const accountSchema = z.object({
  person: personSchema,
  temporary: memberSchema.shape.temporary,
  passwordSetAt: moment,
  secondFactor: z.object({ since: moment, codesLeft: z.number().int() }).nullable(),
  sessions: z.array(sessionSchema),
});

export const begunSecondFactorSchema = z.object({
  secret: z.string().describe('Base32, to be typed where a picture can not be taken'),
  uri: z.string().describe('The same as authenticator apps read it'),
  picture: z.string().describe('The address as a QR code: a data URL'),
});

/** Six digits of an authenticator app, or a recovery code. */
export const codeSchema = z.object({ code: z.string().trim().min(6, 'A code has six digits.').max(40) });

export const recoveryCodesSchema = z.object({ codes: z.array(z.string()) });

export type Member = z.infer<typeof memberSchema>;
export type Account = z.infer<typeof accountSchema>;
export type BegunSecondFactor = z.infer<typeof begunSecondFactorSchema>;
