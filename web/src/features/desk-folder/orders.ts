/** Work on local files that a worker does, away from the page. */
import type { Reference } from '@ovrel/core/references';
import type { ComparedOnDesk, DeskOrder, DeskReport } from '../../workers/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly path: string;
}

const makeWorker = (): Worker => new Worker(new URL('../../workers/desk.ts', import.meta.url), { type: 'module' });

/** One order to a worker of its own; cancelled by ending it. */
export function order(
  message: DeskOrder,
  onProgress?: (progress: Progress) => void,
): { done: Promise<DeskReport>; cancel: () => void } {
  const worker = makeWorker();
  const done = new Promise<DeskReport>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<DeskReport>) => {
      if (data.kind === 'progress') onProgress?.(data);
      else if (data.kind === 'failed') reject(new Error(data.sentence));
      else resolve(data);
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The folder could not be looked at.'));
    worker.postMessage(message);
  });
  return { done: done.finally(() => worker.terminate()), cancel: () => worker.terminate() };
}

/** What changed between a version and what is here; `name` says by its ending what it is. */
export async function compareHere(name: string, versionId: string, here: File): Promise<ComparedOnDesk> {
  const before = await fetch(linkTo(api.versions.content, { versionId }));
  if (!before.ok) throw new Error('The version could not be read just now.');
  const report = await order({
    kind: 'compare',
    name,
    before: await before.arrayBuffer(),
    here: await here.arrayBuffer(),
  }).done;
  if (report.kind !== 'compared') throw new Error('The comparison gave no answer.');
  return report.compared;
}

/** Samples of local files, by which the server can tell which of its files they are like. */
export async function sketchesHere(
  folder: FileSystemDirectoryHandle,
  paths: readonly string[],
): Promise<readonly { path: string; sketch: readonly number[] }[]> {
  const report = await order({ kind: 'sketch', folder, paths }).done;
  return report.kind === 'sketched' ? report.files : [];
}

/** Which other files a local file names. */
export async function referencesHere(name: string, here: File): Promise<readonly Reference[]> {
  const report = await order({ kind: 'references', name, here: await here.arrayBuffer() }).done;
  return report.kind === 'references' ? report.references : [];
}
