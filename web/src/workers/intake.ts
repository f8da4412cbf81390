/** A web worker: finds out how old copies belong together, away from the page. Nothing is sent. */
import { intakePlan, lookAtCopy, type FoundCopy, type IntakePlan } from '@ovrel/core';
import './engines.ts';
import { hashOf } from '../features/desk-folder/hashing.ts';
import { onlyZip, type FoundFile } from '../features/intake/found.ts';
import { MOST_COPIES, MOST_IN_ZIP, MOST_OF_ONE } from '../features/intake/limits.ts';
import { filesInZip } from '../features/intake/zip.ts';

export interface IntakeOrder {
  readonly files: readonly FoundFile[];
}

export type IntakeReport =
  | { readonly kind: 'progress'; readonly share: number; readonly path: string }
  /** `files` are what was looked into: what was in a ZIP, if one was given. */
  | { readonly kind: 'planned'; readonly plan: IntakePlan; readonly files: readonly FoundFile[] }
  | { readonly kind: 'failed'; readonly sentence: string };

const report = (message: IntakeReport): void => postMessage(message);

async function filesOf(given: readonly FoundFile[]): Promise<readonly FoundFile[]> {
  const zip = onlyZip(given);
  if (!zip) return given;
  const limits = { files: MOST_COPIES, bytes: MOST_IN_ZIP };
  return filesInZip(zip, limits, (done, of) => report({ kind: 'progress', share: done / of, path: zip.name }));
}

async function bytesOf({ path, file }: FoundFile): Promise<Uint8Array> {
  try {
    return new Uint8Array(await file.arrayBuffer());
  } catch {
    throw new Error(`${path} cannot be read any more. Choose the folder again.`);
  }
}

async function plan(given: readonly FoundFile[]): Promise<void> {
  const files = await filesOf(given);
  const copies: FoundCopy[] = [];
  const tooLarge: string[] = [];
  for (const [done, found] of files.entries()) {
    const { path, file } = found;
    report({ kind: 'progress', share: done / files.length, path });
    if (file.size > MOST_OF_ONE) tooLarge.push(path);
    else copies.push(await lookAtCopy(path, await bytesOf(found), file.lastModified, await hashOf(file)));
  }
  const made = intakePlan(copies);
  report({ kind: 'planned', plan: { ...made, left: [...made.left, ...tooLarge].sort() }, files });
}

self.onmessage = ({ data }: MessageEvent<IntakeOrder>) => {
  plan(data.files).catch((error: unknown) =>
    report({ kind: 'failed', sentence: error instanceof Error ? error.message : String(error) }),
  );
};
