'use client';

/** The state of a desk: the folder, what lies in it, and where each file stands. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { deskStatus, guesses, type DeskStatus } from '@ovrel/core/desk';
import type { DeskFile, Resembling } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import type { SeenFile } from './hashing.ts';
import { order, sketchesHere, type Progress } from './orders.ts';
import { recall, remember, type Base, type Memory, type Where } from './memory.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

export interface Row {
  readonly path: string;
  readonly status: DeskStatus;
  readonly file: DeskFile | undefined;
  readonly here: SeenFile | undefined;
  readonly base: Base | undefined;
  /** A file of the project that this one may be, moved or renamed. */
  readonly perhaps: DeskFile | undefined;
  /** Where it is taken for that one by what it holds: the share of that, 0 to 1. */
  readonly likeness: number | undefined;
}

export interface DeskHere {
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

export function useDesk(
  projectId: string,
  where: Where,
  folder: FileSystemDirectoryHandle | undefined,
  initial: readonly DeskFile[],
): DeskHere {
  const { data: files = initial, mutate } = useAnswer(api.desk.files, { projectId }, { fallbackData: initial });
  const [memory, setMemory] = useState<Memory>();
  const [seen, setSeen] = useState<readonly SeenFile[]>();
  const [unread, setUnread] = useState<readonly string[]>([]);
  const [progress, setProgress] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  const running = useRef<{ cancel: () => void }>(undefined);
  const newest = useRef(files);
  useEffect(() => {
    newest.current = files;
  }, [files]);
  const look = useCallback(async (): Promise<void> => {
    if (!folder) return;
    running.current?.cancel();
    setProblem(undefined);
    setProgress({ done: 0, total: 0, path: '' });
    try {
      const before = await recall(projectId, where);
      const job = order({ kind: 'look', folder, known: before.hashes }, setProgress);
      running.current = job;
      const report = await job.done;
      if (report.kind !== 'looked') return;
      const known = await recall(projectId, where);
      const now = {
        bases: { ...known.bases, ...takenFrom(newest.current, report.looked.files) },
        hashes: report.looked.hashes,
      };
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
  const note = useCallback(
    async (bases: Readonly<Record<string, Base>>): Promise<void> => {
      const before = await recall(projectId, where);
      const now = { ...before, bases: { ...before.bases, ...bases } };
      await remember(projectId, where, now);
      setMemory(now);
    },
    [projectId, where],
  );
  const known = useMemo(() => (seen && memory ? rowsOf(files, seen, memory) : undefined), [files, seen, memory]);
  const alike = useResembling(projectId, folder, known);
  useKnown(projectId, known, note);
  const rows = useMemo(
    () =>
      known?.map((r) => {
        const found =
          r.status === 'not in Ovrel' && !r.perhaps ? alike.get(`${r.path} ${r.here?.sha256 ?? ''}`) : undefined;
        const file = files.find((f) => f.fileId === found?.fileId);
        return found && file ? { ...r, perhaps: file, likeness: found.likeness } : r;
      }),
    [known, alike, files],
  );
  return {
    rows,
    unread,
    progress,
    problem,
    look,
    note,
    refresh: () => mutate(),
    cancel: () => {
      running.current?.cancel();
      setProgress(undefined);
    },
  };
}

/** Asked about in one go. */
const MOST_ASKED = 2000;

/**
 * A folder that was filled before it was connected: contents that are older versions are known as such, and not taken
 * for changes.
 */
function useKnown(projectId: string, rows: readonly Row[] | undefined, note: DeskHere['note']): void {
  const asked = useRef(new Set<string>());
  useEffect(() => {
    const open =
      rows
        ?.flatMap((r) =>
          r.status === 'changed on both' &&
          !r.base &&
          r.file &&
          r.here &&
          !asked.current.has(`${r.path} ${r.here.sha256}`)
            ? [{ path: r.path, fileId: r.file.fileId, sha256: r.here.sha256 }]
            : [],
        )
        .slice(0, MOST_ASKED) ?? [];
    if (!open.length) return;
    for (const o of open) asked.current.add(`${o.path} ${o.sha256}`);
    void call(api.desk.known, {
      projectId,
      body: { files: open.map(({ fileId, sha256 }) => ({ fileId, sha256 })) },
    })
      .then((found) => {
        const paths = new Map(open.map((o) => [o.fileId, o.path]));
        return found.length ? note(Object.fromEntries(found.map((k) => [paths.get(k.fileId) ?? '', k]))) : undefined;
      })
      .catch(() => undefined);
  }, [projectId, rows, note]);
}

/** Unknown files that are looked at for what they hold, at most. */
const MOST_UNKNOWN = 200;

/**
 * For files that are known neither by path nor by hash nor by name: which file of the project each is like. Asked
 * once for each content.
 */
function useResembling(
  projectId: string,
  folder: FileSystemDirectoryHandle | undefined,
  rows: readonly Row[] | undefined,
): ReadonlyMap<string, Resembling> {
  const [found, setFound] = useState<ReadonlyMap<string, Resembling>>(new Map());
  const asked = useRef(new Set<string>());
  useEffect(() => {
    const open =
      rows
        ?.filter(
          (r) => r.status === 'not in Ovrel' && !r.perhaps && !asked.current.has(`${r.path} ${r.here?.sha256 ?? ''}`),
        )
        .slice(0, MOST_UNKNOWN) ?? [];
    if (!folder || !open.length) return;
    const keys = new Map(open.map((r) => [r.path, `${r.path} ${r.here?.sha256 ?? ''}`]));
    for (const key of keys.values()) asked.current.add(key);
    void sketchesHere(
      folder,
      open.map((r) => r.path),
    )
      .then((files) => call(api.desk.resembling, { projectId, body: { files } }))
      .then((list) =>
        setFound(
          (before) => new Map([...before, ...list.map((l): [string, Resembling] => [keys.get(l.path) ?? '', l])]),
        ),
      )
      // What it is like stays unknown; it can be added all the same.
      .catch(() => undefined);
  }, [projectId, folder, rows]);
  return found;
}

/** What is here as its newest version was taken from that, by whatever way it came here. */
export function takenFrom(files: readonly DeskFile[], seen: readonly SeenFile[]): Record<string, Base> {
  const here = new Map(seen.map((s) => [s.path, s.sha256]));
  return Object.fromEntries(
    files.flatMap(({ path, fileId, newest }): [string, Base][] =>
      here.get(path) === newest.sha256
        ? [[path, { fileId, versionId: newest.id, number: newest.number, sha256: newest.sha256 }]]
        : [],
    ),
  );
}

/** Where every file of the project and of the folder stands, by path. */
export function rowsOf(files: readonly DeskFile[], seen: readonly SeenFile[], memory: Pick<Memory, 'bases'>): Row[] {
  const byPath = new Map(files.map((f) => [f.path, f]));
  const here = new Map(seen.map((s) => [s.path, s]));
  const unknown = seen.filter((s) => !byPath.has(s.path)).map((s) => ({ path: s.path, hash: s.sha256 }));
  const missing = files
    .filter((f) => !here.has(f.path))
    .map((f) => ({ fileId: f.fileId, path: f.path, hash: memory.bases[f.path]?.sha256 ?? f.newest.sha256 }));
  const guessed = new Map(guesses(unknown, missing).map((g) => [g.path, g.fileId]));
  return [...new Set([...byPath.keys(), ...here.keys()])]
    .sort((a, b) => a.localeCompare(b))
    .map((path) => {
      const file = byPath.get(path);
      const local = here.get(path);
      const known = memory.bases[path];
      const base = known?.fileId === file?.fileId ? known : undefined;
      return {
        path,
        file,
        here: local,
        base,
        likeness: undefined,
        perhaps: files.find((f) => f.fileId === guessed.get(path)),
        status: deskStatus({ here: local?.sha256, base: base?.sha256, newest: file?.newest.sha256 }),
      };
    });
}
