'use client';

import Link from 'next/link';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Here } from '../../contract/access.ts';
import type { Contents } from '../../contract/api.ts';
import { sayLimits } from '../access/limits.ts';
import { call, sentenceOf } from '../api/client.ts';
import { ReasonDialog, type ReasonQuestion } from '../desk/ReasonDialog.tsx';
import { useKeys } from '../frame/keys.tsx';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { sayAgo, sayMoment, saySize } from '../words.ts';
import { ArchiveDialog } from './ArchiveDialog.tsx';
import { SendingBar, useAddFiles, type Outcome } from './AddFiles.tsx';
import { MoveDialog, type Movable } from './MoveDialog.tsx';
import { NameDialog, type NameQuestion } from './NameDialog.tsx';
import { Thumb } from './Thumb.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

interface Props {
  readonly initial: Contents;
  readonly here: Here;
}

type File_ = Contents['files'][number];
type Folder_ = Contents['folders'][number];

export function ContentsPage({ initial, here }: Props): React.ReactNode {
  const mayCheckIn = here.rights.includes('check out');
  const mayOrganise = mayCheckIn;
  const mayManage = here.rights.includes('manage');
  const mayLookBack = here.rights.includes('see old versions');
  const { project } = initial;
  const folderId = initial.folder?.id ?? null;
  const { data = initial, mutate } = useAnswer(
    api.projects.contents,
    { projectId: project.id, query: { folder: folderId ?? undefined } },
    { fallbackData: initial },
  );
  const [question, setQuestion] = useState<NameQuestion>();
  const [moving, setMoving] = useState<readonly Movable[]>();
  const [chosen, setChosen] = useState<ReadonlyMap<string, Movable>>(new Map());
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const [over, setOver] = useState(false);
  const [archiving, setArchiving] = useState(false);
  const [asking, setAsking] = useState<ReasonQuestion>();
  const files = [...chosen.values()].filter((item) => item.kind === 'file').map((item) => item.id);
  useLive({ project: project.id }, (event) => {
    if (event?.kind !== 'present') void mutate();
  });
  const checkOut = async (): Promise<void> => {
    try {
      const held = await call(api.checkouts.take, { body: { files } });
      setOutcomes([
        {
          problem: false,
          text: `You have ${held.length === 1 ? `“${held[0]?.fileName ?? ''}”` : `${held.length} files`} checked out.`,
        },
      ]);
      setChosen(new Map());
    } catch (error) {
      setOutcomes([{ problem: true, text: sentenceOf(error) }]);
    }
    await mutate();
  };
  const askToDelete = (f: File_): void =>
    setAsking({
      title: `Delete ${f.name}`,
      act: 'Delete it',
      text: `“${f.name}” leaves the lists. ${f.versions === 1 ? 'Its one version is' : `Its ${f.versions} versions are`} kept: the file can be brought back at any of them, from “Deleted files” in the history.`,
      save: async (reason) => {
        await call(api.files.remove, { fileId: f.id, body: { reason } });
        await mutate();
      },
    });
  const chooser = useRef<HTMLInputElement>(null);
  const {
    sending,
    add: send,
    cancel,
  } = useAddFiles(project.id, folderId, (list) => {
    setOutcomes(list);
    void mutate();
  });
  /** Where every check-in needs a note, that is asked for first. */
  const add = (list: readonly File[]): void => {
    if (!data.noteRequired) void send(list);
    else
      setAsking({
        title: list.length === 1 ? `Add ${list[0]?.name ?? ''}` : `Add ${list.length} files`,
        text: 'Here every check-in needs a note: say why.',
        act: 'Add',
        save: (note) => {
          void send(list, note);
          return Promise.resolve();
        },
      });
  };
  const ruleNotes = async (text: string): Promise<void> => {
    const required = text === 'required';
    await (
      folderId
        ? call(api.projects.changeFolder, { folderId, body: { noteRequired: text === 'above' ? null : required } })
        : call(api.projects.change, { projectId: project.id, body: { noteRequired: required } })
    ).catch((error: unknown) => setOutcomes([{ problem: true, text: sentenceOf(error) }]));
    await mutate();
  };
  const renaming = (title: string, value: string, rename: (name: string) => Promise<unknown>): void =>
    setQuestion({
      title,
      act: 'Rename',
      value,
      save: async (name) => {
        await rename(name);
        await mutate();
      },
    });
  const newFolder = (): void =>
    setQuestion({
      title: 'New folder',
      act: 'Make folder',
      value: '',
      save: async (name) => {
        await call(api.projects.makeFolder, { projectId: project.id, body: { name, parentId: folderId } });
        await mutate();
      },
    });
  const toggle = (item: Movable): void =>
    setChosen((before) => {
      const next = new Map(before);
      if (!next.delete(item.id)) next.set(item.id, item);
      return next;
    });
  useKeys([
    { key: 'd', says: 'Download all', run: () => setArchiving(true) },
    ...(mayCheckIn ? [{ key: 'u', says: 'Add files', run: () => chooser.current?.click() }] : []),
    ...(mayOrganise
      ? [
          { key: 'f', says: 'New folder', run: newFolder },
          { key: 'm', says: 'Move what is chosen', run: () => chosen.size && setMoving([...chosen.values()]) },
        ]
      : []),
  ]);
  const drop = (event: React.DragEvent): void => {
    event.preventDefault();
    setOver(false);
    if (mayCheckIn && event.dataTransfer.files.length) add([...event.dataTransfer.files]);
  };
  const empty = !data.folders.length && !data.files.length;
  return (
    <div
      className={`ov-drop${over ? ' is-over' : ''}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(mayCheckIn);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <main className="ov-page">
        <div className="ov-head">
          <h1>{data.folder?.name ?? data.project.name}</h1>
          {files.length > 0 && mayCheckIn && (
            <Button onClick={() => void checkOut()}>Check out {files.length} chosen</Button>
          )}
          {chosen.size > 0 && (
            <Button variant="outline-secondary" onClick={() => setMoving([...chosen.values()])}>
              Move {chosen.size} chosen
            </Button>
          )}
          {mayManage && !folderId && (
            <Button
              variant="outline-secondary"
              onClick={() =>
                renaming('Rename the project', data.project.name, (name) =>
                  call(api.projects.change, { projectId: project.id, body: { name } }),
                )
              }
            >
              Rename project
            </Button>
          )}
          <Link className="btn btn-outline-secondary" href={`/projects/${project.id}/desk`}>
            Desk folder
          </Link>
          {mayLookBack && (
            <Link className="btn btn-outline-secondary" href={`/projects/${project.id}/history`}>
              History
            </Link>
          )}
          <Link
            className="btn btn-outline-secondary"
            href={`/projects/${project.id}/access${folderId ? `?folder=${folderId}` : ''}`}
          >
            Access
          </Link>
          {!empty && (
            <Button variant="outline-secondary" onClick={() => setArchiving(true)}>
              Download all
            </Button>
          )}
          {mayOrganise && (
            <Button variant="outline-secondary" onClick={newFolder}>
              New folder
            </Button>
          )}
          {mayCheckIn && (
            <Button
              variant={files.length > 0 ? 'outline-secondary' : 'primary'}
              onClick={() => chooser.current?.click()}
            >
              Add files
            </Button>
          )}
          <input
            ref={chooser}
            type="file"
            multiple
            hidden
            aria-label="Files to add"
            onChange={(e) => {
              const list = [...(e.target.files ?? [])];
              e.target.value = '';
              if (list.length) add(list);
            }}
          />
        </div>
        {!mayCheckIn && (
          <p className="ov-quiet">
            {sayLimits(
              here,
              here.rights.includes('see')
                ? 'You can look here, but not change anything'
                : 'What lies directly in here is closed to you',
            )}
          </p>
        )}
        {sending && <SendingBar sending={sending} onCancel={cancel} />}
        {outcomes.map((o, i) => (
          <Said key={i} problem={o.problem}>
            {o.text}
          </Said>
        ))}
        {mayManage && (
          <div className="ov-filters">
            <Form.Select
              size="sm"
              aria-label="Notes at check-in"
              value={data.noteRule === null ? 'above' : data.noteRule ? 'required' : 'optional'}
              onChange={(e) => void ruleNotes(e.target.value)}
            >
              {folderId && <option value="above">Notes: as above</option>}
              <option value="optional">Notes: optional</option>
              <option value="required">Notes: required at every check-in</option>
            </Form.Select>
          </div>
        )}
        {empty ? (
          <div className="ov-empty">
            <p>
              Nothing is in here yet.{' '}
              {mayCheckIn
                ? 'Drop files anywhere on this page, or choose them. Any kind of file is kept; drawings and text are also compared part by part.'
                : ''}
            </p>
            {mayCheckIn && <Button onClick={() => chooser.current?.click()}>Add files</Button>}
          </div>
        ) : (
          <table className="ov-table" aria-label="Folders and files">
            <thead>
              <tr>
                {mayOrganise && <th aria-label="Choose" />}
                <th aria-label="Picture" />
                <th>Name</th>
                <th>Newest</th>
                <th>Checked in by</th>
                <th>Held by</th>
                <th className="is-wide">When</th>
                <th className="is-wide">Why</th>
                <th className="is-wide">What changed</th>
                <th className="is-wide">Size</th>
                <th aria-label="Acts" />
              </tr>
            </thead>
            <tbody>
              {data.folders.map((f) => (
                <FolderRow
                  key={f.id}
                  folder={f}
                  chosen={chosen.has(f.id)}
                  mayOrganise={mayOrganise}
                  onToggle={toggle}
                  onRename={() =>
                    renaming(`Rename “${f.name}”`, f.name, (name) =>
                      call(api.projects.changeFolder, { folderId: f.id, body: { name } }),
                    )
                  }
                  onMove={(item) => setMoving([item])}
                />
              ))}
              {data.files.map((f) => (
                <FileRow
                  key={f.id}
                  file={f}
                  chosen={chosen.has(f.id)}
                  mayOrganise={mayOrganise}
                  onToggle={toggle}
                  onRename={() =>
                    renaming(`Rename “${f.name}”`, f.name, (name) =>
                      call(api.files.change, { fileId: f.id, body: { name } }),
                    )
                  }
                  onMove={(item) => setMoving([item])}
                  onDelete={() => askToDelete(f)}
                />
              ))}
            </tbody>
          </table>
        )}
      </main>
      {question && <NameDialog question={question} onClose={() => setQuestion(undefined)} />}
      {asking && <ReasonDialog question={asking} onClose={() => setAsking(undefined)} />}
      {archiving && (
        <ArchiveDialog
          projectId={project.id}
          folder={data.folder}
          name={data.folder?.name ?? data.project.name}
          onClose={() => setArchiving(false)}
        />
      )}
      {moving && (
        <MoveDialog
          projectId={project.id}
          items={moving}
          onClose={(moved) => {
            setMoving(undefined);
            if (moved) setChosen(new Map());
            void mutate();
          }}
        />
      )}
    </div>
  );
}

interface RowProps {
  readonly chosen: boolean;
  readonly mayOrganise: boolean;
  readonly onToggle: (item: Movable) => void;
  readonly onRename: () => void;
  readonly onMove: (item: Movable) => void;
}

function Choose({
  item,
  chosen,
  onToggle,
}: {
  item: Movable;
  chosen: boolean;
  onToggle: (item: Movable) => void;
}): React.ReactNode {
  return (
    <td>
      <Form.Check checked={chosen} onChange={() => onToggle(item)} aria-label={`Choose ${item.name}`} />
    </td>
  );
}

function Acts({
  item,
  onRename,
  onMove,
}: {
  item: Movable;
  onRename: () => void;
  onMove: (item: Movable) => void;
}): React.ReactNode {
  return (
    <>
      <Button variant="link" onClick={onRename} aria-label={`Rename ${item.name}`}>
        Rename
      </Button>
      <Button variant="link" onClick={() => onMove(item)} aria-label={`Move ${item.name}`}>
        Move
      </Button>
    </>
  );
}

function FolderRow({
  folder,
  chosen,
  mayOrganise,
  onToggle,
  onRename,
  onMove,
}: RowProps & { folder: Folder_ }): React.ReactNode {
  const item: Movable = { kind: 'folder', id: folder.id, name: folder.name };
  return (
    <tr className={chosen ? 'is-chosen' : undefined}>
      {mayOrganise && <Choose item={item} chosen={chosen} onToggle={onToggle} />}
      <td className="is-thumb">
        <span className="ov-thumb" style={{ background: 'none', border: 0 }}>
          <i className="bi bi-folder" aria-hidden="true" style={{ fontSize: 20, color: 'var(--ov-quiet)' }} />
        </span>
      </td>
      <td>
        <Link href={`/projects/${folder.projectId}?folder=${folder.id}`}>{folder.name}</Link>
      </td>
      <td colSpan={2} className="ov-quiet">
        {folder.files} {folder.files === 1 ? 'file' : 'files'}
      </td>
      <td className="is-wide" colSpan={5} />
      <td className="is-acts">{mayOrganise && <Acts item={item} onRename={onRename} onMove={onMove} />}</td>
    </tr>
  );
}

function FileRow({
  file,
  chosen,
  mayOrganise,
  onToggle,
  onRename,
  onMove,
  onDelete,
}: RowProps & { file: File_; onDelete: () => void }): React.ReactNode {
  const { newest } = file;
  const item: Movable = { kind: 'file', id: file.id, name: file.name };
  return (
    <tr className={chosen ? 'is-chosen' : undefined}>
      {mayOrganise && <Choose item={item} chosen={chosen} onToggle={onToggle} />}
      <td className="is-thumb">
        <Link href={`/files/${file.id}`} tabIndex={-1} aria-hidden="true">
          <Thumb versionId={newest.id} format={newest.format} />
        </Link>
      </td>
      <td>
        <Link href={`/files/${file.id}`}>{file.name}</Link>
      </td>
      <td className="ov-mono">v{newest.number}</td>
      <td>{newest.by.name}</td>
      <td>
        {file.holder ? (
          <>
            <i className="bi bi-lock" aria-hidden="true" /> {file.holder}
          </>
        ) : (
          <span className="ov-quiet">nobody</span>
        )}
      </td>
      <td className="is-wide text-nowrap">
        <span title={sayMoment(newest.at)}>{sayMoment(newest.at)}</span>{' '}
        <span className="ov-quiet" suppressHydrationWarning>
          {sayAgo(newest.at)}
        </span>
      </td>
      <td className="is-wide is-note ov-cut" title={newest.note}>
        {newest.note}
      </td>
      <td className="is-wide is-note ov-cut" title={newest.summary ?? undefined}>
        {newest.summary ?? <span className="ov-quiet">{newest.number === 1 ? 'first version' : '…'}</span>}
      </td>
      <td className="is-wide ov-mono text-nowrap">{saySize(newest.size)}</td>
      <td className="is-acts">
        {mayOrganise && (
          <>
            <Acts item={item} onRename={onRename} onMove={onMove} />
            <Button variant="link" onClick={onDelete} aria-label={`Delete ${file.name}`}>
              Delete
            </Button>
          </>
        )}
      </td>
    </tr>
  );
}
