'use client';
/**
 * Which folder the desk is, of the person's own computer or the practice folder; and what is said of what was tried.
 */
import { useEffect, useState } from 'react';
import { sentenceOf } from '../api/client.ts';
import { allowed, droppedFolder, InUse, openFolder, practiceFolder } from './folder.ts';
import { recallFolder, rememberFolder, type Where } from './memory.ts';

export interface Told {
  readonly problem: boolean;
  readonly text: string;
  /** Tries once more what did not work. */
  readonly again?: () => void;
}

export interface Connected {
  readonly where: Where;
  readonly folder: FileSystemDirectoryHandle | undefined;
  /** The folder of last time, which the browser may want to be allowed again. */
  readonly known: FileSystemDirectoryHandle | undefined;
  readonly said: Told | undefined;
  readonly busy: boolean;
  readonly say: (said: Told) => void;
  /** Runs an act; what it gives, or why it failed, is said. */
  readonly attempt: (work: () => Promise<string | undefined>) => void;
  readonly connect: () => void;
  readonly connectDropped: (event: React.DragEvent) => void;
  readonly connectAgain: (handle: FileSystemDirectoryHandle) => void;
  readonly practise: () => void;
}

const givenUp = (error: unknown): boolean => (error as DOMException).name === 'AbortError';

export function useConnected(projectId: string): Connected {
  const [where, setWhere] = useState<Where>('folder');
  const [folder, setFolder] = useState<FileSystemDirectoryHandle>();
  const [known, setKnown] = useState<FileSystemDirectoryHandle>();
  const [said, setSaid] = useState<Told>();
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    void recallFolder(projectId).then(setKnown, () => undefined);
  }, [projectId]);

  const attempt = (work: () => Promise<string | undefined>): void => {
    const tell = (error: unknown): void => {
      if (givenUp(error)) return;
      const again = error instanceof InUse ? { again: () => attempt(work) } : {};
      setSaid({ problem: true, text: sentenceOf(error), ...again });
    };
    setBusy(true);
    setSaid(undefined);
    void work()
      .then((text) => text !== undefined && setSaid({ problem: false, text }), tell)
      .finally(() => setBusy(false));
  };

  const use = (place: Where, handle: FileSystemDirectoryHandle): undefined => {
    setWhere(place);
    setFolder(handle);
    return undefined;
  };

  return {
    where,
    folder,
    known,
    said,
    busy,
    say: setSaid,
    attempt,
    connect: () =>
      attempt(async () => {
        const chosen = await openFolder();
        await rememberFolder(projectId, chosen);
        return use('folder', chosen);
      }),
    connectDropped: (event) => {
      event.preventDefault();
      // What was dropped can only be asked for at once.
      const dropped = droppedFolder(event);
      attempt(async () => {
        const handle = await dropped;
        if (!handle) throw new Error('That was no folder. Drop the folder itself, not the files in it.');
        await rememberFolder(projectId, handle);
        return use('folder', handle);
      });
    },
    connectAgain: (handle) =>
      attempt(async () => {
        if (await allowed(handle)) return use('folder', handle);
        throw new Error('The browser was not allowed to use the folder. Connect it again, and allow it.');
      }),
    practise: () => attempt(async () => use('practice', await practiceFolder(projectId))),
  };
}
