import { useCallback, useEffect, useRef, useState } from 'react';
import type { Saved } from '../../contract/saving.ts';
import { sentenceOf } from '../api/client.ts';
import { saves } from './save-queue.ts';

/** The file that is saved, and the version that it was made of. */
export interface SavedFile {
  readonly fileId: string;
  readonly name: string;
  readonly base: string | undefined;
}

/** While somebody goes on working, a save is made this often at least, in milliseconds. */
const AT_LATEST = 3 * 60_000;

interface Saving {
  /** Says that the content is another: it is saved after a pause. */
  readonly changed: (content: string) => void;
  /** Saves at once, with a title if there is one. */
  readonly saveNow: (content: string, title?: string) => void;
  readonly says: string | undefined;
}

/** Saves of a file: after a pause of so many milliseconds, and at the latest every few minutes. */
export function useSavesAsOneGoes(file: SavedFile | undefined, pause: number, onSaved: (saved: Saved) => void): Saving {
  const [says, setSays] = useState<string>();
  const told = useRef(onSaved);
  useEffect(() => {
    told.current = onSaved;
  });
  const fileId = file?.fileId;
  useEffect(
    () =>
      saves.tell({
        onSent: (save, saved) => {
          if (save.fileId !== fileId) return;
          setSays(saved.sentence);
          told.current(saved);
        },
        onRefused: (save, error) => {
          if (save.fileId === fileId) setSays(sentenceOf(error));
        },
      }),
    [fileId],
  );
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const since = useRef<number>(undefined);
  const saveNow = useCallback(
    (content: string, title?: string): void => {
      clearTimeout(timer.current);
      since.current = undefined;
      if (!file) return;
      setSays('Saving …');
      void saves.add({ ...file, content: new Blob([content]), title });
    },
    [file],
  );
  const changed = useCallback(
    (content: string): void => {
      clearTimeout(timer.current);
      since.current ??= Date.now();
      const left = Math.max(0, since.current + AT_LATEST - Date.now());
      timer.current = setTimeout(() => saveNow(content), Math.min(pause, left));
    },
    [saveNow, pause],
  );
  useEffect(() => () => clearTimeout(timer.current), []);
  return { changed, saveNow, says };
}
