/** Backup, restore and verification from the command line. Exit codes: 0 done, 1 not done, 2 wrong use. */
import { resolve } from 'node:path';
import { backup, restore, verify } from './lib/backup.ts';
import { Stop } from './lib/stop.ts';

const usage = `Usage:
  npx ovrel-admin backup FILE     writes everything that this Ovrel keeps into FILE
  npx ovrel-admin restore FILE    puts it into an empty Ovrel, and reads every version back
  npx ovrel-admin verify FILE     checks the file without restoring it

The Ovrel is the one whose data lie in .ovrel (or OVREL_DATA), or at DATABASE_URL. It may be running while it is backed up.`;

const [command, file, ...rest] = process.argv.slice(2);
const works = { backup, restore, verify } as const;

if (!command || !(command in works) || !file || rest.length) {
  console.error(usage);
  process.exit(2);
}
try {
  await works[command as keyof typeof works](resolve(process.env['OVREL_CWD'] ?? process.cwd(), file));
  process.exit(0);
} catch (error) {
  console.error(error instanceof Stop ? error.message : error);
  process.exit(1);
}
