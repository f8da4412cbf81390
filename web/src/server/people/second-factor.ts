/**
 * A second factor: codes of an authenticator app (time-based one-time passwords, RFC 6238, six digits, 30 seconds), and
 * recovery codes that open once each.
 */
import { createHash, randomInt } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { toDataURL } from 'qrcode';
import type { BegunSecondFactor } from '../../contract/account.ts';
import type { Db } from '../db/pool.ts';
import { spendRecoveryCode, spendStep, type AccountRow } from './account-rows.ts';

const PERIOD = 30;
/** Codes of the step before and after are taken, too: clocks differ. */
const WINDOW = 1;
const RECOVERY_CODES = 10;
/** Without letters and digits that are taken for one another. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

const totpOf = (label: string, secret: string): TOTP =>
  new TOTP({ issuer: 'Ovrel', label, secret: Secret.fromBase32(secret), period: PERIOD });

export const newSecret = (): string => new Secret({ size: 20 }).base32;

/** What an authenticator app needs. */
export async function describeSecret(label: string, secret: string): Promise<BegunSecondFactor> {
  const uri = totpOf(label, secret).toString();
  return { secret, uri, picture: await toDataURL(uri, { margin: 2, width: 360 }) };
}

/** Whether a code opens, now and never again. Spaces and hyphens are as people write them. */
export async function opens(client: Db, account: AccountRow, code: string): Promise<boolean> {
  const plain = code.replace(/[\s-]/g, '').toLowerCase();
  if (!/^\d{6}$/.test(plain)) return spendRecoveryCode(client, account.id, digest(plain));
  if (account.second_factor === null) return false;
  const timestamp = Date.now();
  const delta = totpOf(account.email, account.second_factor).validate({ token: plain, window: WINDOW, timestamp });
  return delta !== null && spendStep(client, account.id, Math.floor(timestamp / 1000 / PERIOD) + delta);
}

const digest = (code: string): Buffer => createHash('sha256').update(code).digest();

const letters = (count: number): string =>
  Array.from({ length: count }, () => LETTERS.charAt(randomInt(LETTERS.length))).join('');

/** Codes to be shown once, and what is kept of them. 59 bits each: a plain hash is enough. */
export function newRecoveryCodes(): { readonly codes: readonly string[]; readonly hashes: readonly Buffer[] } {
  const codes = Array.from({ length: RECOVERY_CODES }, () => `${letters(6)}-${letters(6)}`);
  return { codes, hashes: codes.map((code) => digest(code.replace('-', ''))) };
}
