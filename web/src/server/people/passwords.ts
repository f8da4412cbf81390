/** Passwords are kept as argon2id hashes (RFC 9106), 19 MiB, two passes. */
import { hash, verify } from '@node-rs/argon2';

const options = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

export const hashPassword = (password: string): Promise<string> => hash(password, options);

/** A hash of nothing anyone knows, so that an unknown name takes as long as a wrong password. */
let decoy: Promise<string> | undefined;

export async function passwordMatches(stored: string | undefined, password: string): Promise<boolean> {
  decoy ??= hashPassword(crypto.randomUUID());
  const matches = await verify(stored ?? (await decoy), password).catch(() => false);
  return stored !== undefined && matches;
}
