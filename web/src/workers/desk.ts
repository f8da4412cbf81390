/** A web worker of the desk: hashes a folder, and compares what is here with a version, away from the page. */
import {
  compareFiles,
  deltaFromSignature,
  open,
  packDelta,
  referencesOf,
  sketchOf,
  type Change,
  type Reference,
} from '@ovrel/core';
import './engines.ts';
import { filesIn, readFile } from '../features/desk-folder/folder.ts';
import type { Difference } from '../features/desk-folder/difference.ts';
import { hashOf, lookAtFiles, type Looked } from '../features/desk-folder/hashing.ts';
import type { Hashed } from '../features/desk-folder/memory.ts';

export type DeskOrder =
  | {
      readonly kind: 'look';
      readonly folder: FileSystemDirectoryHandle;
      readonly known: Readonly<Record<string, Hashed>>;
    }
  | { readonly kind: 'references'; readonly name: string; readonly here: ArrayBuffer }
  | { readonly kind: 'sketch'; readonly folder: FileSystemDirectoryHandle; readonly paths: readonly string[] }
  | { readonly kind: 'difference'; readonly signature: ArrayBuffer; readonly content: Blob }
  | { readonly kind: 'compare'; readonly name: string; readonly before: ArrayBuffer; readonly here: ArrayBuffer };

export interface ComparedOnDesk {
  readonly summary: string;
  readonly level: string;
  readonly changes: readonly string[];
}

export type DeskReport =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number; readonly path: string }
  | { readonly kind: 'looked'; readonly looked: Looked }
  | { readonly kind: 'compared'; readonly compared: ComparedOnDesk }
  | { readonly kind: 'references'; readonly references: readonly Reference[] }
  /** Undefined where it is not worth it. */
  | { readonly kind: 'difference'; readonly difference: Difference | undefined }
  | {
      readonly kind: 'sketched';
      readonly files: readonly { readonly path: string; readonly sketch: readonly number[] }[];
    }
  | { readonly kind: 'failed'; readonly sentence: string };

const LISTED = 200;
const report = (message: DeskReport): void => postMessage(message);

async function look(folder: FileSystemDirectoryHandle, known: Readonly<Record<string, Hashed>>): Promise<void> {
  const files: { path: string; file: () => Promise<File> }[] = [];
  for await (const { path, handle } of filesIn(folder)) files.push({ path, file: () => handle.getFile() });
  let told = 0;
  report({
    kind: 'looked',
    looked: await lookAtFiles(files, known, (done, total, path) => {
      if (Date.now() - told < 100 && done < total) return;
      told = Date.now();
      report({ kind: 'progress', done, total, path });
    }),
  });
}

/** Larger files are not sketched, in bytes. */
const SKETCHED = 100 * 1024 * 1024;

async function sketch(folder: FileSystemDirectoryHandle, paths: readonly string[]): Promise<void> {
  const files: { path: string; sketch: number[] }[] = [];
  for (const path of paths) {
    const here = await readFile(folder, path).catch(() => undefined);
    if (here && here.size <= SKETCHED)
      files.push({ path, sketch: [...sketchOf(new Uint8Array(await here.arrayBuffer()))] });
  }
  report({ kind: 'sketched', files });
}

/** A delta that saves less than this share is not worth it. */
const WORTH = 0.7;

async function differenceOf(signature: ArrayBuffer, content: Blob): Promise<Difference | undefined> {
  const target = new Uint8Array(await content.arrayBuffer());
  const packed = packDelta(deltaFromSignature(new Uint8Array(signature), target));
  // eslint-disable-next-line no-restricted-syntax -- the browser's own name
  const zipped = new Blob([Uint8Array.from(packed)]).stream().pipeThrough(new CompressionStream('gzip'));
  const delta = await new Response(zipped).blob();
  return delta.size > WORTH * content.size ? undefined : { delta, sha256: await hashOf(content) };
}

/** One line of the list of changes. */
function sayChange({ part, kind, what }: Change): string {
  const [first] = what;
  const difference = first ? `: ${first.property ?? first.aspect} ${first.from} → ${first.to}` : '';
  return `${part.kind === 'place' ? 'Place ' : ''}${part.name || part.kind} ${kind}${difference}`;
}

async function compareHere(name: string, before: ArrayBuffer, here: ArrayBuffer): Promise<ComparedOnDesk> {
  const a = await open(new Uint8Array(before), name);
  const b = await open(new Uint8Array(here), name);
  const { comparison } = await compareFiles(a, b);
  return {
    summary: comparison.summary,
    level: comparison.level,
    changes: comparison.changes.slice(0, LISTED).map(sayChange),
  };
}

addEventListener('message', ({ data }: MessageEvent<DeskOrder>) => {
  void (async () => {
    if (data.kind === 'look') await look(data.folder, data.known);
    else if (data.kind === 'sketch') await sketch(data.folder, data.paths);
    else if (data.kind === 'difference')
      report({ kind: 'difference', difference: await differenceOf(data.signature, data.content) });
    else if (data.kind === 'references')
      report({ kind: 'references', references: await referencesOf(new Uint8Array(data.here), data.name) });
    else report({ kind: 'compared', compared: await compareHere(data.name, data.before, data.here) });
  })().catch((error: unknown) =>
    report({ kind: 'failed', sentence: error instanceof Error ? error.message : String(error) }),
  );
});
