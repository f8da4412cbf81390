'use client';
/** What can be done with the files of a desk. */
import { useState } from 'react';
import { linkTo } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import type { Saved } from '../../contract/saving.ts';
import { ChangedHereDialog } from './ChangedHereDialog.tsx';
import { CheckInSetDialog } from './CheckInSetDialog.tsx';
import { writeFile } from './folder.ts';
import type { Base } from './memory.ts';
import { PracticeEditor } from './PracticeEditor.tsx';
import type { Connected } from './useConnected.ts';
import type { DeskHere, Row } from './useDesk.ts';

/** A version that a file is to have here. */
interface Target {
  readonly id: string;
  readonly number: number;
  readonly sha256: string;
}

export interface DeskActs {
  /** The dialog that is open. */
  readonly dialog: React.ReactNode;
  readonly getNewest: (rows: readonly Row[]) => void;
  readonly getVersion: (row: Row, number: number) => void;
  readonly goOn: (row: Row, number: number) => void;
  readonly hold: (row: Row, take: boolean) => void;
  readonly holdAndGet: (row: Row) => void;
  readonly checkIn: (rows: readonly Row[]) => void;
  readonly showChanged: (row: Row, target: Target) => void;
  readonly edit: (row: Row) => void;
}

export const isOlder = ({ status }: Row): boolean => status === 'newer on the server' || status === 'not on this desk';
export const isChanged = ({ status }: Row): boolean => status === 'changed here' || status === 'changed on both';

export function useDeskActs(projectId: string, connected: Connected, desk: DeskHere): DeskActs {
  const { where, folder, attempt, say } = connected;
  const [dialog, open] = useState<React.ReactNode>();
  const close = (): void => open(undefined);
  const place = where === 'practice' ? 'the practice folder' : (folder?.name ?? '');

  /** Brings versions into the folder; what was changed here is only replaced by who said so. */
  const fetchInto = async (wanted: readonly { row: Row; target: Target }[]): Promise<number> => {
    if (!folder) return 0;
    const bases: Record<string, Base> = {};
    try {
      for (const { row, target } of wanted) {
        if (!row.file) continue;
        await writeFile(folder, row.path, await bytesOf(row, target));
        bases[row.path] = baseOf(row.file.fileId, target);
      }
    } finally {
      await desk.note(bases);
      await desk.look();
    }
    return wanted.length;
  };

  const showChanged = (row: Row, target: Target): void => {
    if (!folder) return;
    const putBack = (): void => {
      close();
      attempt(async () => {
        await fetchInto([{ row, target }]);
        return `“${row.path}” is here as v${target.number} again.`;
      });
    };
    open(<ChangedHereDialog row={row} target={target} folder={folder} onClose={close} onPutBack={putBack} />);
  };

  return {
    dialog,
    showChanged,
    getNewest: (rows) =>
      attempt(async () => {
        const n = await fetchInto(rows.flatMap((row) => (row.file ? [{ row, target: row.file.newest }] : [])));
        return n === 1 ? 'One file is here as its newest version.' : `${n} files are here as their newest versions.`;
      }),
    getVersion: (row, number) =>
      attempt(async () => {
        const target = await versionOf(row, number);
        if (isChanged(row)) {
          showChanged(row, target);
          return undefined;
        }
        await fetchInto([{ row, target }]);
        return `“${row.path}” is here as v${target.number}.`;
      }),
    // The older content comes here, and what is checked in next follows the newest version with this one as its source.
    goOn: (row, number) =>
      attempt(async () => {
        const { file } = row;
        if (!file) return undefined;
        if (isChanged(row))
          throw new Error(
            `“${row.path}” is changed here. Check it in or put a version back first, so that nothing of it is lost.`,
          );
        const target = await versionOf(row, number);
        await call(api.checkouts.take, { body: { files: [file.fileId], desk: place, from: target.id } });
        await fetchInto([{ row, target }]);
        await desk.note({ [row.path]: baseOf(file.fileId, file.newest) });
        await desk.refresh();
        return `You have “${row.path}” checked out, with the content of v${number}. What you check in will be v${file.newest.number + 1}, with v${number} as its source.`;
      }),
    hold: (row, take) =>
      attempt(async () => {
        if (!row.file) return undefined;
        const files = [row.file.fileId];
        if (take) await call(api.checkouts.take, { body: { files, desk: place } });
        else await call(api.checkouts.giveUp, { body: { files } });
        await desk.refresh();
        return take ? `You have “${row.path}” checked out.` : `“${row.path}” was given up.`;
      }),
    holdAndGet: (row) =>
      attempt(async () => {
        if (!row.file) return undefined;
        await call(api.checkouts.take, { body: { files: [row.file.fileId], desk: place } });
        await fetchInto([{ row, target: row.file.newest }]);
        await desk.refresh();
        return `You have “${row.path}” checked out, and it is here as v${row.file.newest.number}.`;
      }),
    checkIn: (rows) => {
      const landed = (text: string, bases: Readonly<Record<string, Base>>): void => {
        close();
        say({ problem: false, text });
        void desk.note(bases).then(desk.refresh).then(desk.look);
      };
      const shared = { projectId, rows, all: desk.rows ?? [] };
      if (folder) open(<CheckInSetDialog {...shared} folder={folder} onClose={close} onLanded={landed} />);
    },
    edit: ({ path, file, base }) => {
      const done = (): void => {
        close();
        void desk.look();
      };
      const known = file && {
        fileId: file.fileId,
        name: path.split('/').at(-1) ?? path,
        base: base?.versionId ?? file.newest.id,
      };
      // What stands beside the main line is not what others get: the desk goes on from what was checked in.
      const saved = ({ aside, version }: Saved): void => {
        if (!aside && file) void desk.note({ [path]: baseOf(file.fileId, version) });
      };
      if (folder) open(<PracticeEditor path={path} folder={folder} file={known} onSaved={saved} onClose={done} />);
    },
  };
}

const baseOf = (fileId: string, { id, number, sha256 }: Target): Base => ({ fileId, versionId: id, number, sha256 });

async function bytesOf(row: Row, { id, number }: Target): Promise<Blob> {
  const answer = await fetch(linkTo(api.versions.content, { versionId: id }));
  if (answer.ok) return answer.blob();
  throw new Error(`v${number} of “${row.path}” could not be read just now. What was brought before it is here.`);
}

async function versionOf(row: Row, number: number): Promise<Target> {
  const { file } = row;
  const query = { from: number, to: number };
  const [found] = file ? await call(api.files.versions, { fileId: file.fileId, query }) : [];
  if (!found) throw new Error(`“${row.path}” has no v${number}.`);
  return found;
}
