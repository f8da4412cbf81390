/**
 * Backup, restore and verification from the command line. Exit codes: 0 done, 1 not done, 2 wrong use, 3 done, but
 * damage was found.
 */
import { resolve } from 'node:path';
import { backup, restore, verify } from './lib/backup.ts';
import { verifyLedger, writeAnchor } from './lib/ledger.ts';
import { Stop } from './lib/stop.ts';

const usage = `Usage:
  npx ovrel-admin backup FILE     reads everything that this Ovrel keeps, and writes it into FILE
  npx ovrel-admin restore FILE    puts it into an empty Ovrel, and reads every version back
  npx ovrel-admin verify FILE     reads every version in the file, without restoring it
  npx ovrel-admin verify-ledger [--anchor FILE]
                                  proves that nothing in the ledger was changed, that versions are what it says, and
                                  with anchors that nothing was cut off at its end; prints its seal
  npx ovrel-admin anchor FILE     appends the head of the ledger to FILE, as an anchor

The Ovrel is the one whose data lie in .ovrel (or OVREL_DATA), or at DATABASE_URL. It may be running while it is backed up.`;

const [command, file, ...rest] = process.argv.slice(2);
const works = { backup, restore, verify, anchor: writeAnchor } as const;
const pathOf = (given: string): string => resolve(process.env['OVREL_CWD'] ?? process.cwd(), given);

function workOf(): (() => Promise<unknown>) | undefined {
  if (command === 'verify-ledger') return verifyingLedger();
  if (!command || !(command in works) || !file || rest.length > 0) return undefined;
  return () => works[command as keyof typeof works](pathOf(file));
}

function verifyingLedger(): (() => Promise<unknown>) | undefined {
  if (file === undefined) return () => verifyLedger();
  const [anchors, ...more] = rest;
  if (file !== '--anchor' || anchors === undefined || more.length > 0) return undefined;
  return () => verifyLedger(pathOf(anchors));
}

const work = workOf();
if (!work) {
  console.error(usage);
  process.exit(2);
}
try {
  await work();
  process.exit(0);
} catch (error) {
  console.error(error instanceof Stop ? error.message : error);
  process.exit(error instanceof Stop ? error.code : 1);
}
