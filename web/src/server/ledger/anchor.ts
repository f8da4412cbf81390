/**
 * Anchors: the head of the ledger, kept where whoever can change the database cannot reach it. Without one, entries that
 * are cut off at the end leave no trace; with one, they are missed.
 */
import { appendFile, readFile } from 'node:fs/promises';
import { z } from 'zod';
import { config } from '../config.ts';
import { db, many, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import { lastEntry } from './rows.ts';

export const anchorSchema = z.object({
  at: z.iso.datetime(),
  /** The number of the last entry. */
  entries: z.number().int(),
  /** Its seal, hexadecimal. */
  seal: z.string(),
});
export type Anchor = z.infer<typeof anchorSchema>;

export async function anchorNow(client: Db = db()): Promise<Anchor> {
  const last = await lastEntry(client);
  return { at: new Date().toISOString(), entries: Number(last?.seq ?? 0), seal: last?.hash.toString('hex') ?? '' };
}

/** Appends a line of JSON to a file; made where it is not there. */
export async function anchorInFile(path: string, anchor: Anchor): Promise<void> {
  await appendFile(path, `${JSON.stringify(anchor)}\n`);
}

/** Sends it as JSON. Throws where the other side does not take it. */
async function anchorByWebhook(url: string, anchor: Anchor): Promise<void> {
  const response = await fetch(url, {
    method: 'POST',
    body: JSON.stringify(anchor),
    headers: { 'content-type': 'application/json' },
    signal: AbortSignal.timeout(30_000),
  });
  if (!response.ok) throw new Error(`the webhook answered with ${response.status}`);
}

async function anchorByMail(server: string, { to, from }: { to: string; from: string }, anchor: Anchor): Promise<void> {
  const { createTransport } = await import('nodemailer');
  await createTransport(server).sendMail({
    to,
    from,
    subject: `Ovrel: the ledger has ${anchor.entries} entries`,
    text: [
      `At ${anchor.at} the ledger had ${anchor.entries} entries. The seal of the last one was`,
      anchor.seal,
      'Keep this message. With the line below in a file, “npx ovrel-admin verify-ledger --anchor FILE” tells whether',
      'anything of it was changed or cut off since.',
      '',
      JSON.stringify(anchor),
    ].join('\n'),
  });
}

/** Puts an anchor wherever one is wanted. Gives where; all are tried, then what failed is thrown. */
export async function anchorEverywhere(): Promise<{ anchor: Anchor; places: string[] }> {
  const anchor = await anchorNow();
  const { anchorFile, anchorWebhook, anchorMail, mailServer, mailFrom } = config;
  const ways: (readonly [string, () => Promise<void>])[] = [];
  if (anchorFile) ways.push(['file', () => anchorInFile(anchorFile, anchor)]);
  if (anchorWebhook) ways.push(['webhook', () => anchorByWebhook(anchorWebhook, anchor)]);
  if (anchorMail && mailServer)
    ways.push(['mail', () => anchorByMail(mailServer, { to: anchorMail, from: mailFrom }, anchor)]);
  const done = await Promise.allSettled(ways.map(([, put]) => put()));
  const failed = done.flatMap((one, i) =>
    one.status === 'rejected' ? [`${ways[i]?.[0]}: ${String(one.reason)}`] : [],
  );
  if (failed.length > 0) throw new Error(`An anchor was not put: ${failed.join('; ')}`);
  return { anchor, places: ways.map(([name]) => name) };
}

/** Anchors of a file, a line each; others, such as the text of a mail around them, are passed over. */
export async function anchorsIn(path: string): Promise<Anchor[]> {
  const lines = (await readFile(path, 'utf8')).split('\n');
  return lines.flatMap((line) => {
    if (!line.trimStart().startsWith('{')) return [];
    const found = anchorSchema.safeParse(jsonOf(line));
    return found.success ? [found.data] : [];
  });
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** The anchors that the ledger does not bear out: their entries are not there, or have another seal. */
export async function unborne(client: Db, anchors: readonly Anchor[]): Promise<Anchor[]> {
  const rows = await many<{ seq: string; hash: Buffer }>(
    client,
    'select seq, hash from ledger where store_id = $1 and seq = any($2::bigint[])',
    [STORE, anchors.map(({ entries }) => entries)],
  );
  const seals = new Map(rows.map((row) => [Number(row.seq), row.hash.toString('hex')]));
  return anchors.filter(({ entries, seal }) => entries > 0 && seals.get(entries) !== seal);
}
