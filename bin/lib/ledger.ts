import { anchorInFile, anchorNow, anchorsIn, unborne } from '../../web/src/server/ledger/anchor.ts';
import { proveLedger } from '../../web/src/server/ledger/ledger.ts';
import { proveVersions, sayFault } from '../../web/src/server/ledger/seals.ts';
import { connected, openDatabase } from './backup.ts';
import { Stop } from './stop.ts';

/** Faults that are named one by one. */
const MOST_NAMED = 40;

const many = (count: number, one: string): string => `${count.toLocaleString('en')} ${count === 1 ? one : `${one}s`}`;

/** Proves the chain of the ledger and that versions are what it says; with a file of anchors, that nothing was cut off. */
export async function verifyLedger(anchorFile?: string): Promise<void> {
  const anchors = anchorFile === undefined ? [] : await readAnchors(anchorFile);
  const { url, stop } = await openDatabase(false);
  try {
    const { entries, seal, broken } = await connected(url, (client) => proveLedger(client));
    if (broken)
      throw new Stop(
        `The ledger does not hold: entry ${broken.seq}: ${broken.why}. The ${entries.toLocaleString('en')} before it do.`,
      );
    for (const { at, entries: number } of await connected(url, (client) => unborne(client, anchors)))
      throw new Stop(
        `The ledger does not hold: it is not the one that was anchored ${at}, with ${number.toLocaleString('en')} entries. It was cut off or written anew since.`,
      );
    const { right, wrong } = await connected(url, (client) => proveVersions(client));
    if (wrong.length > 0) {
      const named = wrong
        .slice(0, MOST_NAMED)
        .map((w) => `  v${w.number} (${w.versionId}) of file ${w.fileId} ${sayFault(w)}`);
      throw new Stop(
        [
          `The ledger holds, but ${many(wrong.length, 'version')} of ${right + wrong.length} are not what it says:`,
          ...named,
        ].join('\n'),
      );
    }
    console.log(
      [
        `The ledger holds: ${entries.toLocaleString('en')} entries, no gap, every seal right.`,
        `${many(right, 'version')} are what it says.`,
        ...(anchorFile === undefined ? [] : [`It bears out ${many(anchors.length, 'anchor')}.`]),
        `The last seal is ${seal}`,
      ].join('\n'),
    );
  } finally {
    stop();
  }
}

async function readAnchors(file: string): ReturnType<typeof anchorsIn> {
  const anchors = await anchorsIn(file).catch(() => {
    throw new Stop(`${file} could not be read.`, 2);
  });
  if (anchors.length === 0) throw new Stop(`There is no anchor in ${file}.`, 2);
  return anchors;
}

/** Appends the head of the ledger to a file, which is then kept elsewhere. */
export async function writeAnchor(file: string): Promise<void> {
  const { url, stop } = await openDatabase(false);
  try {
    const anchor = await connected(url, (client) => anchorNow(client));
    await anchorInFile(file, anchor);
    console.log(
      `${file} has the seal of entry ${anchor.entries.toLocaleString('en')}. Keep it where the database is not.`,
    );
  } finally {
    stop();
  }
}
