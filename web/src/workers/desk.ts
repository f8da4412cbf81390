/** A web worker of the desk: hashes a folder, and compares what is here with a version, away from the page. */
import { compare, open, referencesOf, sketchOf, type Comparison, type Input, type Reference } from '@ovrel/core';
import { comparePictures, summarise, type Picture } from '@ovrel/core/pictures';
import { filesIn, readFile } from '../features/desk-folder/folder.ts';
import { lookAtFiles, type Looked } from '../features/desk-folder/hashing.ts';
import type { Hashed } from '../features/desk-folder/memory.ts';
import { decodable, decodeHere } from './decode.ts';

export type Order =
  | {
      readonly kind: 'look';
      readonly folder: FileSystemDirectoryHandle;
      readonly known: Readonly<Record<string, Hashed>>;
    }
  | { readonly kind: 'references'; readonly name: string; readonly here: ArrayBuffer }
  | { readonly kind: 'sketch'; readonly folder: FileSystemDirectoryHandle; readonly paths: readonly string[] }
  | { readonly kind: 'compare'; readonly name: string; readonly before: ArrayBuffer; readonly here: ArrayBuffer };

export interface Compared {
  readonly summary: string;
  readonly level: string;
  readonly changes: readonly string[];
}

export type Report =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number; readonly path: string }
  | { readonly kind: 'looked'; readonly looked: Looked }
  | { readonly kind: 'compared'; readonly compared: Compared }
  | { readonly kind: 'references'; readonly references: readonly Reference[] }
  | {
      readonly kind: 'sketched';
      readonly files: readonly { readonly path: string; readonly sketch: readonly number[] }[];
    }
  | { readonly kind: 'failed'; readonly sentence: string };

const LISTED = 200;
const report = (message: Report): void => postMessage(message);

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

/** Two pictures that the browser decodes, by their pixels; undefined for anything else. */
async function picturesHere(
  a: Input,
  b: Input,
): Promise<Pick<Comparison, 'summary' | 'level' | 'changes'> | undefined> {
  const [formatA, formatB] = [a.opened.format?.id ?? '', b.opened.format?.id ?? ''];
  if (!decodable.has(formatA) || !decodable.has(formatB)) return undefined;
  const picture = async ({ bytes }: Input, format: string): Promise<Picture> => ({
    bitmap: (await decodeHere(new Blob([Uint8Array.from(bytes)]))).bitmap,
    format,
    depth: 8,
    density: undefined,
    profile: undefined,
    colours: '',
    transparent: false,
    pages: 1,
    notes: [],
  });
  try {
    const { changes, counts, causes } = comparePictures(await picture(a, formatA), await picture(b, formatB));
    return { summary: summarise('pixels', changes, counts, causes), level: 'pixels', changes };
  } catch {
    // What the browser cannot decode is compared as any file.
    return undefined;
  }
}

async function compareHere(name: string, before: ArrayBuffer, here: ArrayBuffer): Promise<Compared> {
  const side = (bytes: Uint8Array): Input => ({ bytes, name, opened: open(bytes, name) });
  const a = side(new Uint8Array(before));
  const b = side(new Uint8Array(here));
  const comparison = (await picturesHere(a, b)) ?? compare(a, b).comparison;
  const words = { added: 'added', removed: 'removed', changed: 'changed', moved: 'moved' } as const;
  return {
    summary: comparison.summary,
    level: comparison.level,
    changes: comparison.changes
      .slice(0, LISTED)
      .map(
        (c) =>
          `${c.part.kind === 'place' ? 'Place ' : ''}${c.part.name || c.part.kind} ${words[c.kind]}${c.what[0] ? `: ${c.what[0].property ?? c.what[0].aspect} ${c.what[0].from ?? ''} → ${c.what[0].to ?? ''}` : ''}`,
      ),
  };
}

addEventListener('message', ({ data }: MessageEvent<Order>) => {
  void (async () => {
    if (data.kind === 'look') await look(data.folder, data.known);
    else if (data.kind === 'sketch') await sketch(data.folder, data.paths);
    else if (data.kind === 'references')
      report({ kind: 'references', references: referencesOf(new Uint8Array(data.here), data.name) });
    else report({ kind: 'compared', compared: await compareHere(data.name, data.before, data.here) });
  })().catch((error: unknown) =>
    report({ kind: 'failed', sentence: error instanceof Error ? error.message : String(error) }),
  );
});
