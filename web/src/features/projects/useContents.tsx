'use client';
/** What lies in a project or folder, and all that can be done with it there. */
import { useState } from 'react';
import { api } from '../../contract/operations/index.ts';
import type { Contents } from '../../contract/api.ts';
import { call, sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { ReasonDialog } from '../desk/ReasonDialog.tsx';
import { useLive } from '../live/useLive.ts';
import { SendingBar, useAddFiles, type Outcome } from './AddFiles.tsx';
import { ArchiveDialog } from './ArchiveDialog.tsx';
import { MoveDialog, type Movable } from './MoveDialog.tsx';
import { NameDialog } from './NameDialog.tsx';

type Entry = Contents['files'][number];

/** What a project or folder says of all below it. */
export type PlaceRule = 'noteRequired' | 'savesCount';

export interface ContentsHere {
  readonly data: Contents;
  readonly chosen: ReadonlyMap<string, Movable>;
  readonly outcomes: readonly Outcome[];
  /** The dialog that is open, and what is being sent. */
  readonly dialog: React.ReactNode;
  readonly sending: React.ReactNode;
  readonly toggle: (item: Movable) => void;
  readonly add: (files: readonly File[]) => void;
  readonly checkOut: () => Promise<void>;
  readonly move: (items: readonly Movable[]) => void;
  readonly remove: (file: Entry) => void;
  readonly rename: (item: Movable) => void;
  readonly renameProject: () => void;
  readonly makeFolder: () => void;
  /** Null: as the folder above, or the project. */
  readonly setRule: (rule: PlaceRule, value: boolean | null) => Promise<void>;
  /** Minutes without a save that end a sitting, in the whole project. */
  readonly setPause: (minutes: number) => Promise<void>;
  readonly archive: () => void;
}

export function useContents(initial: Contents): ContentsHere {
  const projectId = initial.project.id;
  const folderId = initial.folder?.id ?? null;
  const { data = initial, mutate } = useAnswer(
    api.projects.contents,
    { projectId, query: { folder: folderId ?? undefined } },
    { fallbackData: initial },
  );
  const [chosen, setChosen] = useState<ReadonlyMap<string, Movable>>(new Map());
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const [dialog, open] = useState<React.ReactNode>();
  useLive({ project: projectId }, (event) => {
    if (event?.kind !== 'present') void mutate();
  });
  const close = (): void => open(undefined);
  const saving = (save: (text: string) => Promise<unknown>) => async (text: string) => {
    await save(text);
    await mutate();
  };
  const askName = (title: string, act: string, value: string, save: (name: string) => Promise<unknown>): void =>
    open(<NameDialog question={{ title, act, value, save: saving(save) }} onClose={close} />);
  const {
    sending,
    add: send,
    cancel,
  } = useAddFiles(projectId, folderId, (list) => {
    setOutcomes(list);
    void mutate();
  });

  const checkOut = async (): Promise<void> => {
    const files = [...chosen.values()].filter((item) => item.kind === 'file').map((item) => item.id);
    try {
      const held = await call(api.checkouts.take, { body: { files } });
      const what = held.length === 1 ? `“${held[0]?.fileName ?? ''}”` : `${held.length} files`;
      setOutcomes([{ problem: false, text: `You have ${what} checked out.` }]);
      setChosen(new Map());
    } catch (error) {
      setOutcomes([{ problem: true, text: sentenceOf(error) }]);
    }
    await mutate();
  };

  const remove = (file: Entry): void => {
    const kept = file.versions === 1 ? 'Its one version is' : `Its ${file.versions} versions are`;
    const question = {
      title: `Delete ${file.name}`,
      act: 'Delete it',
      text: `“${file.name}” leaves the lists. ${kept} kept: the file can be brought back at any of them, from “Deleted files” in the history.`,
      save: saving((reason) => call(api.files.remove, { fileId: file.id, body: { reason } })),
    };
    open(<ReasonDialog question={question} onClose={close} />);
  };

  /** Where every check-in needs a note, that is asked for first. */
  const add = (files: readonly File[]): void => {
    if (!data.noteRequired) return void send(files);
    const question = {
      title: files.length === 1 ? `Add ${files[0]?.name ?? ''}` : `Add ${files.length} files`,
      text: 'Here every check-in needs a note: say why.',
      act: 'Add',
      save: (note: string) => {
        void send(files, note);
        return Promise.resolve();
      },
    };
    open(<ReasonDialog question={question} onClose={close} />);
  };

  const setRule = async (rule: PlaceRule, value: boolean | null): Promise<void> => {
    await (
      folderId
        ? call(api.projects.changeFolder, { folderId, body: { [rule]: value } })
        : call(api.projects.change, { projectId, body: { [rule]: value ?? false } })
    ).catch((error: unknown) => setOutcomes([{ problem: true, text: sentenceOf(error) }]));
    await mutate();
  };

  const setPause = async (minutes: number): Promise<void> => {
    const body = { sittingPause: minutes };
    await call(api.projects.change, { projectId, body }).catch((error: unknown) =>
      setOutcomes([{ problem: true, text: sentenceOf(error) }]),
    );
    await mutate();
  };

  const afterMove = (moved: boolean): void => {
    close();
    if (moved) setChosen(new Map());
    void mutate();
  };

  return {
    data,
    chosen,
    outcomes,
    dialog,
    sending: sending && <SendingBar sending={sending} onCancel={cancel} />,
    toggle: (item) =>
      setChosen((before) => {
        const next = new Map(before);
        if (!next.delete(item.id)) next.set(item.id, item);
        return next;
      }),
    add,
    checkOut,
    move: (items) => open(<MoveDialog projectId={projectId} items={items} onClose={afterMove} />),
    remove,
    rename: ({ kind, id, name: before }) =>
      askName(`Rename “${before}”`, 'Rename', before, (name) =>
        kind === 'folder'
          ? call(api.projects.changeFolder, { folderId: id, body: { name } })
          : call(api.files.change, { fileId: id, body: { name } }),
      ),
    renameProject: () =>
      askName('Rename the project', 'Rename', data.project.name, (name) =>
        call(api.projects.change, { projectId, body: { name } }),
      ),
    makeFolder: () =>
      askName('New folder', 'Make folder', '', (name) =>
        call(api.projects.makeFolder, { projectId, body: { name, parentId: folderId } }),
      ),
    setRule,
    setPause,
    archive: () =>
      open(
        <ArchiveDialog
          projectId={projectId}
          folder={data.folder}
          name={data.folder?.name ?? data.project.name}
          onClose={close}
        />,
      ),
  };
}
