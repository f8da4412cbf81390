import { useRef, useState } from 'react';
import type { DeskFile, Planned, SetResult } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { KeyOfSent } from '../api/attempt-key.ts';
import { call, sentenceOf } from '../api/client.ts';
import { upload, type Upload } from '../api/upload.ts';
import { readFile } from './folder.ts';
import type { Base } from './memory.ts';
import { baseName, folderIdOf } from './paths.ts';
import type { Row } from './useDesk.ts';

/** A file of the desk, and the file of the project that it becomes a version of; none: a new file. */
interface Sent {
  readonly row: Row;
  readonly as: DeskFile | undefined;
}

interface SetCheckIn {
  /** How much has been sent, 0 to 1; undefined while nothing is. */
  readonly share: number | undefined;
  readonly problem: string | undefined;
  readonly send: (sent: readonly Sent[], how: { readonly note: string; readonly keep: boolean }) => void;
  readonly cancel: () => void;
}

/** Checks files of a desk in together: all, or none. */
export function useSetCheckIn(
  projectId: string,
  folder: FileSystemDirectoryHandle,
  onLanded: (sentence: string, bases: Record<string, Base>) => void,
): SetCheckIn {
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const sending = useRef<Upload<SetResult>>(undefined);
  const [keys] = useState(() => new KeyOfSent());
  const work = async (sent: readonly Sent[], note: string, keep: boolean): Promise<void> => {
    const folders = sent.some(({ as }) => !as) ? await call(api.projects.folders, { projectId }) : [];
    const plan = sent.map(({ row, as }): Planned =>
      as
        ? { fileId: as.fileId, base: as.newest.id, keep }
        : { name: baseName(row.path), folderId: folderIdOf(folders, row.path) },
    );
    const files = await Promise.all(sent.map(({ row }) => presentFile(folder, row.path)));
    const planned = JSON.stringify(plan);
    // The files are read anew each time: what they are is told by their hashes.
    const key = keys.for(note, planned, sent.map(({ row }) => row.here?.sha256).join(' '));
    const fields = { key, note, plan: planned };
    sending.current = upload(api.sets.checkIn, { projectId, fields, files }, setShare);
    const result = await sending.current.done;
    const bases = basesOf(sent, await call(api.desk.files, { projectId }));
    onLanded([result.sentence, ...result.hints].join(' '), bases);
  };
  return {
    share,
    problem,
    send: (sent, { note, keep }) => {
      setProblem(undefined);
      setShare(0);
      void work(sent, note, keep).catch((error: unknown) => {
        setShare(undefined);
        setProblem(`${sentenceOf(error)} If a file changed while it was sent, look again and check in once more.`);
      });
    },
    cancel: () => sending.current?.cancel(),
  };
}

async function presentFile(folder: FileSystemDirectoryHandle, path: string): Promise<File> {
  const file = await readFile(folder, path);
  if (!file) throw new Error(`“${path}” is not in the folder any more. Nothing was checked in.`);
  return file;
}

/** What the desk has now of each file that was sent, if it is still what the project has. */
export function basesOf(sent: readonly Sent[], now: readonly DeskFile[]): Record<string, Base> {
  const bases: Record<string, Base> = {};
  for (const { row, as } of sent) {
    const file = now.find((f) => (as ? f.fileId === as.fileId : f.path === row.path));
    if (!file || row.here?.sha256 !== file.newest.sha256) continue;
    const { id, number, sha256 } = file.newest;
    bases[row.path] = { fileId: file.fileId, versionId: id, number, sha256 };
  }
  return bases;
}
