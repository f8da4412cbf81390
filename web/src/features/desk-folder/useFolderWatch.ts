import { useEffect, useRef, useState } from 'react';
import type { Glimpse } from '@ovrel/core/settling';
import { sentenceOf } from '../api/client.ts';
import { filesIn, readFile } from './folder.ts';
import { FolderWatch, type KnownFile } from './folder-watch.ts';
import { saves } from './save-queue.ts';
import type { DeskHere, Row } from './useDesk.ts';

/** Between two looks at the folder, and how long a file must stay as it is, in milliseconds. */
const LOOK = 1000;
const QUIET = 2000;

async function glimpsesOf(folder: FileSystemDirectoryHandle): Promise<Map<string, Glimpse>> {
  const found = new Map<string, Glimpse>();
  for await (const { path, handle } of filesIn(folder)) {
    // It went away while it was looked at.
    const file = await handle.getFile().catch(() => undefined);
    if (file) found.set(path, { size: file.size, at: file.lastModified, inode: 0 });
  }
  return found;
}

const knownFile = ({ file, base }: Row): KnownFile | undefined =>
  file && {
    fileId: file.fileId,
    base: base?.versionId,
    hashes: [base?.sha256, file.newest.sha256].filter((hash) => hash !== undefined),
  };

/** While it is on, what programs save in the folder becomes versions. Gives what is said of it. */
export function useFolderWatch(
  folder: FileSystemDirectoryHandle | undefined,
  desk: DeskHere,
  isOn: boolean,
): string | undefined {
  const [says, setSays] = useState<string>();
  const latest = useRef(desk);
  useEffect(() => {
    latest.current = desk;
  });
  useEffect(() => {
    if (!folder || !isOn) return undefined;
    const watch = new FolderWatch(
      {
        glimpses: () => glimpsesOf(folder),
        read: (path) => readFile(folder, path).catch(() => undefined),
        fileAt: (path) => {
          const row = latest.current.rows?.find((one) => one.path === path);
          return row && knownFile(row);
        },
      },
      QUIET,
    );
    let timer: ReturnType<typeof setTimeout>;
    let isOver = false;
    const again = (): void => {
      if (!isOver) timer = setTimeout(() => void look(), LOOK);
    };
    const look = async (): Promise<void> => {
      try {
        for (const { path, file, content } of await watch.look(Date.now())) {
          setSays(`${path} was saved; it is on its way.`);
          await saves.add({ fileId: file.fileId, name: content.name, content, base: file.base, title: undefined });
        }
      } catch (error) {
        setSays(`The folder cannot be looked at just now: ${sentenceOf(error)}`);
      }
      again();
    };
    setSays('Watching: what programs save here becomes versions.');
    void look();
    const untell = saves.tell({
      onSent: ({ fileId }, { version, sentence }) => {
        const row = latest.current.rows?.find(({ file }) => file?.fileId === fileId);
        if (!row) return;
        setSays(sentence);
        const { id: versionId, number, sha256 } = version;
        void latest.current
          .note({ [row.path]: { fileId, versionId, number, sha256 } })
          .then(() => latest.current.look());
      },
      onRefused: ({ name }, error) => setSays(`${name}: ${sentenceOf(error)}`),
    });
    return () => {
      isOver = true;
      clearTimeout(timer);
      untell();
      setSays(undefined);
    };
  }, [folder, isOn]);
  return says;
}
