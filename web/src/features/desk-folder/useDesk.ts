'use client';

/** The state of a desk: the folder, what lies in it, and where each file stands. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import useSWR from 'swr';
import { deskStatus, guesses, type DeskStatus } from '@ovrel/core/desk';
import type { DeskFile } from '../../contract/desk.ts';
import type { Compared, Order, Report } from '../../workers/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import type { Seen } from './hashing.ts';
import { recall, remember, type Base, type Memory, type Where } from './memory.ts';

export interface Row {
  readonly path: string;
  readonly status: DeskStatus;
  readonly file: DeskFile | undefined;
  readonly here: Seen | undefined;
  readonly base: Base | undefined;
  /** A file of the project that this one may be, moved or renamed. */
  readonly perhaps: DeskFile | undefined;
}

export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly path: string;
}

export interface Desk {
  readonly rows: readonly Row[] | undefined;
  readonly unread: readonly string[];
  readonly progress: Progress | undefined;
  readonly problem: string | undefined;
  /** Looks at the folder again. */
  readonly look: () => Promise<void>;
  readonly cancel: () => void;
  /** Notes which versions files were taken from. */
  readonly note: (bases: Readonly<Record<string, Base>>) => Promise<void>;
  readonly refresh: () => Promise<unknown>;
}

const makeWorker = (): Worker => new Worker(new URL('../../workers/desk.ts', import.meta.url), { type: 'module' });

/** One order to a worker of its own; cancelled by ending it. */
function order(message: Order, onProgress?: (progress: Progress) => void): { done: Promise<Report>; cancel: () => void } {
  const worker = makeWorker();
  const done = new Promise<Report>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Report>) => {
      if (data.kind === 'progress') onProgress?.(data);
      else if (data.kind === 'failed') reject(new Error(data.sentence));
      else resolve(data);
    };
    worker.onerror = (e) => reject(new Error(e.message || 'The folder could not be looked at.'));
    worker.postMessage(message);
  });
  return { done: done.finally(() => worker.terminate()), cancel: () => worker.terminate() };
}

/** What changed between a version and what is here. */
export async function compareHere(file: DeskFile, versionId: string, here: File): Promise<Compared> {
  const before = await fetch(`/api/v1/versions/${versionId}/content`);
  if (!before.ok) throw new Error('The version could not be read just now.');
  const report = await order({ kind: 'compare', name: file.path.slice(file.path.lastIndexOf('/') + 1), before: await before.arrayBuffer(), here: await here.arrayBuffer() }).done;
  if (report.kind !== 'compared') throw new Error('The comparison gave no answer.');
  return report.compared;
}

export function useDesk(projectId: string, where: Where, folder: FileSystemDirectoryHandle | undefined, initial: readonly DeskFile[]): Desk {
  const { data: files = initial, mutate } = useSWR<readonly DeskFile[]>(`/projects/${projectId}/desk`, (p: string) => call<DeskFile[]>(p), { fallbackData: initial });
  const [memory, setMemory] = useState<Memory>();
  const [seen, setSeen] = useState<readonly Seen[]>();
  const [unread, setUnread] = useState<readonly string[]>([]);
  const [progress, setProgress] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  const running = useRef<{ cancel: () => void }>(undefined);
  const look = useCallback(async (): Promise<void> => {
    if (!folder) return;
    running.current?.cancel();
    setProblem(undefined);
    setProgress({ done: 0, total: 0, path: '' });
    try {
      const before = await recall(projectId, where), job = order({ kind: 'look', folder, known: before.hashes }, setProgress);
      running.current = job;
      const report = await job.done;
      if (report.kind !== 'looked') return;
      const now = { ...(await recall(projectId, where)), hashes: report.looked.hashes };
      await remember(projectId, where, now);
      setMemory(now);
      setSeen(report.looked.files);
      setUnread(report.looked.unread);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
    setProgress(undefined);
  }, [folder, projectId, where]);
  useEffect(() => {
    setSeen(undefined);
    void look();
    return () => running.current?.cancel();
  }, [look]);
  const note = useCallback(async (bases: Readonly<Record<string, Base>>): Promise<void> => {
    const before = await recall(projectId, where), now = { ...before, bases: { ...before.bases, ...bases } };
    await remember(projectId, where, now);
    setMemory(now);
  }, [projectId, where]);
  const rows = useMemo(() => (seen && memory ? rowsOf(files, seen, memory) : undefined), [files, seen, memory]);
  return {
    rows, unread, progress, problem, look, note, refresh: () => mutate(),
    cancel: () => {
      running.current?.cancel();
      setProgress(undefined);
    },
  };
}

/** Where every file of the project and of the folder stands, by path. */
export function rowsOf(files: readonly DeskFile[], seen: readonly Seen[], memory: Pick<Memory, 'bases'>): Row[] {
  const byPath = new Map(files.map((f) => [f.path, f])), here = new Map(seen.map((s) => [s.path, s]));
  const unknown = seen.filter((s) => !byPath.has(s.path)).map((s) => ({ path: s.path, hash: s.sha256 }));
  const missing = files.filter((f) => !here.has(f.path)).map((f) => ({ fileId: f.fileId, path: f.path, hash: memory.bases[f.path]?.sha256 ?? f.newest.sha256 }));
  const guessed = new Map(guesses(unknown, missing).map((g) => [g.path, g.fileId]));
  return [...new Set([...byPath.keys(), ...here.keys()])].sort((a, b) => a.localeCompare(b)).map((path) => {
    const file = byPath.get(path), local = here.get(path), known = memory.bases[path], base = known?.fileId === file?.fileId ? known : undefined;
    return {
      path, file, here: local, base, perhaps: files.find((f) => f.fileId === guessed.get(path)),
      status: deskStatus({ here: local?.sha256, base: base?.sha256, newest: file?.newest.sha256 }),
    };
  });
}
