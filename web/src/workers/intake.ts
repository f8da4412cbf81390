/** A web worker: finds out how a folder of old copies belongs together, away from the page. Nothing is sent. */
import { hashBytes, intakePlan, type FoundCopy, type IntakePlan } from '@ovrel/core';

export interface IntakeOrder {
  readonly files: readonly { readonly path: string; readonly file: File }[];
}

export type IntakeReport =
  | { readonly kind: 'progress'; readonly done: number; readonly path: string }
  | { readonly kind: 'planned'; readonly plan: IntakePlan }
  | { readonly kind: 'failed'; readonly sentence: string };

const report = (message: IntakeReport): void => postMessage(message);

async function plan({ files }: IntakeOrder): Promise<IntakePlan> {
  const copies: FoundCopy[] = [];
  for (const [done, { path, file }] of files.entries()) {
    report({ kind: 'progress', done, path });
    const bytes = new Uint8Array(await file.arrayBuffer());
    copies.push({ path, bytes, sha256: `${bytes.length} ${hashBytes(bytes)}`, at: file.lastModified });
  }
  return intakePlan(copies);
}

self.onmessage = ({ data }: MessageEvent<IntakeOrder>) => {
  void plan(data).then(
    (made) => report({ kind: 'planned', plan: made }),
    (error: unknown) => report({ kind: 'failed', sentence: (error as Error).message }),
  );
};
