import { proveLedger } from '../../web/src/server/ledger/ledger.ts';
import { connected, openDatabase } from './backup.ts';
import { Stop } from './stop.ts';

/** Proves the chain of the ledger, and says its seal. */
export async function verifyLedger(): Promise<void> {
  const { url, stop } = await openDatabase(false);
  try {
    const { entries, seal, broken } = await connected(url, (client) => proveLedger(client));
    if (broken)
      throw new Stop(
        `The ledger does not hold: entry ${broken.seq}: ${broken.why}. The ${entries.toLocaleString('en')} before it do.`,
      );
    console.log(
      `The ledger holds: ${entries.toLocaleString('en')} entries, no gap, every seal right.\nThe last seal is ${seal}`,
    );
  } finally {
    stop();
  }
}
