'use client';

/** A project's files against a folder of the person's own computer, or against the practice folder inside the browser. */
import Link from 'next/link';
import { useEffect, useState, useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import ProgressBar from 'react-bootstrap/ProgressBar';
import type { DeskStatus } from '@ovrel/core/desk';
import type { Person } from '../../contract/api.ts';
import type { DeskFile } from '../../contract/desk.ts';
import { call, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { CheckInSetDialog } from './CheckInSetDialog.tsx';
import { ChangedHereDialog } from './ChangedHereDialog.tsx';
import { allowed, canOpenFolders, droppedFolder, InUse, openFolder, practiceFolder, writeFile } from './folder.ts';
import { recallFolder, rememberFolder, type Base, type Where } from './memory.ts';
import { PracticeEditor } from './PracticeEditor.tsx';
import { tricksFor } from './practice.ts';
import { useDesk, type Row } from './useDesk.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

interface Props {
  readonly project: { readonly id: string; readonly name: string };
  readonly initial: readonly DeskFile[];
  readonly me: Pick<Person, 'id' | 'name'>;
  readonly mayCheckIn: boolean;
}

/** Rows that are shown at first, and each time that more are asked for. */
const PAGE = 200;

const never = () => () => undefined;

/** Each status with a sign of its own, so that it is not told by colour alone. */
const signs: Readonly<Record<DeskStatus, string>> = {
  'same as newest': '=',
  'changed here': '~',
  'newer on the server': '↓',
  'changed on both': '≠',
  'not on this desk': '○',
  'not in Ovrel': '+',
};

type Dialog =
  | { readonly kind: 'check-in'; readonly rows: readonly Row[] }
  | { readonly kind: 'changed'; readonly row: Row; readonly target: { id: string; number: number; sha256: string } }
  | { readonly kind: 'edit'; readonly row: Row };

export function DeskFolderPage({ project, initial, me, mayCheckIn }: Props): React.ReactNode {
  const [where, setWhere] = useState<Where>('folder');
  const [folder, setFolder] = useState<FileSystemDirectoryHandle>();
  const [known, setKnown] = useState<FileSystemDirectoryHandle>();
  const [said, setSaid] = useState<{ problem: boolean; text: string; again?: () => void }>();
  const [busy, setBusy] = useState(false);
  const [dialog, setDialog] = useState<Dialog>();
  const [show, setShow] = useState<'all' | 'differs'>('all');
  const [words, setWords] = useState('');
  const [most, setMost] = useState(PAGE);
  // The server can't know what the browser can.
  const opens = useSyncExternalStore(never, canOpenFolders, () => true);
  const desk = useDesk(project.id, where, folder, initial);
  const { rows, progress } = desk;
  useLive({ project: project.id }, (event) => {
    if (event?.kind !== 'present') void desk.refresh();
  });
  useEffect(() => {
    void recallFolder(project.id).then(setKnown, () => undefined);
  }, [project.id]);
  const attempt = (work: () => Promise<string | undefined>): void => {
    setBusy(true);
    setSaid(undefined);
    void work()
      .then(
        (text) => text !== undefined && setSaid({ problem: false, text }),
        (error: unknown) => {
          if ((error as DOMException).name === 'AbortError') return;
          setSaid({
            problem: true,
            text: sentenceOf(error),
            ...(error instanceof InUse ? { again: () => attempt(work) } : {}),
          });
        },
      )
      .finally(() => setBusy(false));
  };
  const connect = (): void =>
    attempt(async () => {
      const chosen = await openFolder();
      await rememberFolder(project.id, chosen);
      setWhere('folder');
      setFolder(chosen);
      return undefined;
    });
  const connectDropped = (event: React.DragEvent): void => {
    event.preventDefault();
    // What was dropped can only be asked for at once.
    const dropped = droppedFolder(event);
    attempt(async () => {
      const handle = await dropped;
      if (!handle) throw new Error('That was no folder. Drop the folder itself, not the files in it.');
      await rememberFolder(project.id, handle);
      setWhere('folder');
      setFolder(handle);
      return undefined;
    });
  };
  const connectAgain = (handle: FileSystemDirectoryHandle): void =>
    attempt(async () => {
      if (!(await allowed(handle)))
        throw new Error('The browser was not allowed to use the folder. Connect it again, and allow it.');
      setWhere('folder');
      setFolder(handle);
      return undefined;
    });
  const practise = (): void =>
    attempt(async () => {
      const practice = await practiceFolder(project.id);
      setWhere('practice');
      setFolder(practice);
      return undefined;
    });
  /** Brings versions into the folder; what was changed here is only replaced by who said so. */
  const fetchInto = async (
    wanted: readonly { row: Row; target: { id: string; number: number; sha256: string } }[],
  ): Promise<number> => {
    if (!folder) return 0;
    const bases: Record<string, Base> = {};
    try {
      for (const { row, target } of wanted) {
        if (!row.file) continue;
        const answer = await fetch(linkTo(api.versions.content, { versionId: target.id }));
        if (!answer.ok)
          throw new Error(
            `v${target.number} of “${row.path}” could not be read just now. What was brought before it is here.`,
          );
        await writeFile(folder, row.path, await answer.blob());
        bases[row.path] = {
          fileId: row.file.fileId,
          versionId: target.id,
          number: target.number,
          sha256: target.sha256,
        };
      }
    } finally {
      await desk.note(bases);
      await desk.look();
    }
    return wanted.length;
  };
  const newestOf = (row: Row): { id: string; number: number; sha256: string } | undefined => row.file?.newest;
  const older = rows?.filter((r) => r.status === 'newer on the server' || r.status === 'not on this desk') ?? [];
  const changed =
    rows?.filter((r) => r.status === 'changed here' || r.status === 'changed on both' || r.status === 'not in Ovrel') ??
    [];
  const getNewest = (list: readonly Row[]): void =>
    attempt(async () => {
      const n = await fetchInto(
        list.flatMap((row) => {
          const target = newestOf(row);
          return target ? [{ row, target }] : [];
        }),
      );
      return n === 1 ? 'One file is here as its newest version.' : `${n} files are here as their newest versions.`;
    });
  const getVersion = (row: Row, text: string | null): void => {
    if (!text || !row.file) return;
    const { fileId } = row.file;
    const number = Number(text.replace(/^v/i, ''));
    attempt(async () => {
      const [found] =
        Number.isInteger(number) && number > 0
          ? await call(api.files.versions, { fileId, query: { from: number, to: number } })
          : [];
      if (!found) throw new Error(`“${row.path}” has no v${text.replace(/^v/i, '')}.`);
      if (row.status === 'changed here' || row.status === 'changed on both') {
        setDialog({ kind: 'changed', row, target: found });
        return undefined;
      }
      await fetchInto([{ row, target: found }]);
      return `“${row.path}” is here as v${found.number}.`;
    });
  };
  const place = where === 'practice' ? 'the practice folder' : (folder?.name ?? '');
  /** The older content comes here, the file is checked out, and what is checked in next follows the newest version with this one as its source. */
  const goOn = (row: Row, number: number): void =>
    attempt(async () => {
      const { file } = row;
      if (!file) return undefined;
      if (row.status === 'changed here' || row.status === 'changed on both')
        throw new Error(
          `“${row.path}” is changed here. Check it in or put a version back first, so that nothing of it is lost.`,
        );
      const [target] = await call(api.files.versions, { fileId: file.fileId, query: { from: number, to: number } });
      if (!target) throw new Error(`“${row.path}” has no v${number}.`);
      await call(api.checkouts.take, { body: { files: [file.fileId], desk: place, from: target.id } });
      await fetchInto([{ row, target }]);
      await desk.note({
        [row.path]: {
          fileId: file.fileId,
          versionId: file.newest.id,
          number: file.newest.number,
          sha256: file.newest.sha256,
        },
      });
      await desk.refresh();
      return `You have “${row.path}” checked out, with the content of v${number}. What you check in will be v${file.newest.number + 1}, with v${number} as its source.`;
    });
  const holdAndGet = (row: Row): void =>
    attempt(async () => {
      if (!row.file) return undefined;
      await call(api.checkouts.take, { body: { files: [row.file.fileId], desk: place } });
      await fetchInto([{ row, target: row.file.newest }]);
      await desk.refresh();
      return `You have “${row.path}” checked out, and it is here as v${row.file.newest.number}.`;
    });
  const hold = (row: Row, take: boolean): void =>
    attempt(async () => {
      if (!row.file) return undefined;
      const files = [row.file.fileId];
      if (take) await call(api.checkouts.take, { body: { files, desk: place } });
      else await call(api.checkouts.giveUp, { body: { files } });
      await desk.refresh();
      return take ? `You have “${row.path}” checked out.` : `“${row.path}” was given up.`;
    });
  const wanted = words.trim().toLowerCase();
  const matching = rows?.filter(
    (r) => (show === 'all' || r.status !== 'same as newest') && (!wanted || r.path.toLowerCase().includes(wanted)),
  );
  const shown = matching?.slice(0, most);
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Desk of {project.name}</h1>
        {folder && (
          <Button variant="outline-secondary" disabled={busy} onClick={() => void desk.look()}>
            Look again
          </Button>
        )}
        {older.length > 0 && (
          <Button variant="outline-secondary" disabled={busy} onClick={() => getNewest(older)}>
            Get {older.length === 1 ? 'the one that is' : `the ${older.length} that are`} newer
          </Button>
        )}
        {mayCheckIn && changed.length > 0 && (
          <Button
            disabled={busy || progress !== undefined}
            onClick={() => setDialog({ kind: 'check-in', rows: changed })}
          >
            Check in what changed
          </Button>
        )}
      </div>
      {said && (
        <Said problem={said.problem}>
          {said.text}
          {said.again && (
            <>
              {' '}
              <Button size="sm" variant="outline-secondary" onClick={said.again}>
                Try again
              </Button>
            </>
          )}
        </Said>
      )}
      {desk.problem && <Said problem>{desk.problem}</Said>}
      {where === 'practice' && folder && (
        <div className="ov-older" role="note">
          <strong>Practice folder.</strong> It lies inside this browser and stands in for a folder of your computer; the
          practice editor stands in for your programs. What you check in from here is real.
        </div>
      )}
      {!folder && (
        <div
          className="ov-empty"
          aria-label="Connect a folder, or drop it here"
          role="group"
          onDragOver={(e) => e.preventDefault()}
          onDrop={connectDropped}
        >
          <p>
            A desk is a folder on your own computer. Ovrel shows where each file in it stands against the newest
            version, brings newer ones, and checks in what you changed. Nothing that you changed is replaced unasked.
            {opens && ' You can also drop the folder here.'}
          </p>
          <div className="d-flex gap-2 flex-wrap justify-content-center">
            {known && <Button onClick={() => connectAgain(known)}>Go on with the folder “{known.name}”</Button>}
            {opens && (
              <Button variant={known ? 'outline-secondary' : 'primary'} onClick={connect}>
                Connect a folder
              </Button>
            )}
            <Button variant="outline-secondary" onClick={practise}>
              Use the practice folder
            </Button>
          </div>
          {!opens && (
            <p className="mt-3">
              This browser can’t open folders of your computer. The <Link href="/desk">command line</Link> does the
              same, and the practice folder shows how it works.
            </p>
          )}
        </div>
      )}
      {progress && (
        <div className="mb-3" role="status">
          <ProgressBar now={progress.total ? (progress.done / progress.total) * 100 : 0} aria-label="Looked at" />
          <p className="mb-0 mt-1">
            {progress.total
              ? `Looking at ${progress.done.toLocaleString('en')} of ${progress.total.toLocaleString('en')} files ${progress.path}`
              : 'Finding the files …'}{' '}
            <Button variant="link" className="p-0 align-baseline" onClick={desk.cancel}>
              Cancel
            </Button>
          </p>
        </div>
      )}
      {desk.unread.length > 0 && (
        <Said problem>
          Not readable just now, perhaps open in another program: {desk.unread.slice(0, 5).join(', ')}
          {desk.unread.length > 5 ? ` and ${desk.unread.length - 5} more` : ''}.{' '}
          <Button size="sm" variant="outline-secondary" onClick={() => void desk.look()}>
            Try again
          </Button>
        </Said>
      )}
      {folder && shown && (
        <>
          <div className="ov-filters">
            <Form.Select
              size="sm"
              aria-label="Show"
              value={show}
              onChange={(e) => setShow(e.target.value as typeof show)}
            >
              <option value="all">All {rows?.length} files</option>
              <option value="differs">Only those that differ</option>
            </Form.Select>
            <Form.Control
              size="sm"
              type="search"
              aria-label="Only paths with"
              placeholder="Only paths with …"
              value={words}
              onChange={(e) => setWords(e.target.value)}
            />
          </div>
          <table className="ov-table" aria-label="Files of the desk">
            <thead>
              <tr>
                <th>File</th>
                <th>Where it stands</th>
                <th>Here</th>
                <th>Newest</th>
                <th>Held by</th>
                <th aria-label="Acts" />
              </tr>
            </thead>
            <tbody>
              {shown.map((row) => (
                <tr key={row.path}>
                  <td>
                    {row.file ? <Link href={`/files/${row.file.fileId}`}>{row.path}</Link> : row.path}
                    {row.perhaps && (
                      <div className="ov-warn">
                        {row.likeness === undefined
                          ? `perhaps ${row.perhaps.path}, moved or renamed`
                          : `${Math.round(row.likeness * 100)} % like ${row.perhaps.path}`}
                      </div>
                    )}
                  </td>
                  <td className="text-nowrap">
                    <span className={`ov-stand is-${row.status.replaceAll(' ', '-')}`} aria-hidden="true">
                      {signs[row.status]}
                    </span>{' '}
                    {row.status}
                  </td>
                  <td className="ov-mono">
                    {row.here
                      ? row.base
                        ? `v${row.base.number}${row.base.sha256 === row.here.sha256 ? '' : ' changed'}`
                        : row.status === 'same as newest'
                          ? `v${row.file?.newest.number ?? ''}`
                          : '?'
                      : ''}
                  </td>
                  <td className="ov-mono">{row.file ? `v${row.file.newest.number}` : ''}</td>
                  <td>
                    {row.file?.holder ? (
                      row.file.holder.id === me.id ? (
                        'you'
                      ) : (
                        row.file.holder.name
                      )
                    ) : (
                      <span className="ov-quiet">nobody</span>
                    )}
                  </td>
                  <td className="is-acts">
                    {where === 'practice' && row.here && tricksFor(row.path) && (
                      <Button
                        variant="link"
                        disabled={busy}
                        aria-label={`Edit ${row.path}`}
                        onClick={() => setDialog({ kind: 'edit', row })}
                      >
                        Edit
                      </Button>
                    )}
                    {(row.status === 'newer on the server' || row.status === 'not on this desk') && (
                      <Button
                        variant="link"
                        disabled={busy}
                        aria-label={`Get ${row.path}`}
                        onClick={() => getNewest([row])}
                      >
                        Get
                      </Button>
                    )}
                    {(row.status === 'changed here' || row.status === 'changed on both') && row.file && (
                      <Button
                        variant="link"
                        disabled={busy}
                        aria-label={`What changed in ${row.path}`}
                        onClick={() => row.file && setDialog({ kind: 'changed', row, target: row.file.newest })}
                      >
                        What changed
                      </Button>
                    )}
                    {mayCheckIn && row.file && !row.file.holder && (
                      <Button
                        variant="link"
                        disabled={busy}
                        aria-label={`Check out ${row.path}`}
                        onClick={() => hold(row, true)}
                      >
                        Check out
                      </Button>
                    )}
                    {mayCheckIn &&
                      row.file &&
                      !row.file.holder &&
                      (row.status === 'newer on the server' || row.status === 'not on this desk') && (
                        <Button
                          variant="link"
                          disabled={busy}
                          aria-label={`Check out and get ${row.path}`}
                          onClick={() => holdAndGet(row)}
                        >
                          and get
                        </Button>
                      )}
                    {row.file?.holder?.id === me.id && (
                      <Button
                        variant="link"
                        disabled={busy}
                        aria-label={`Give up ${row.path}`}
                        onClick={() => hold(row, false)}
                      >
                        Give up
                      </Button>
                    )}
                    {row.file && row.file.newest.number > 1 && (
                      <VersionPicker
                        row={row}
                        disabled={busy}
                        mayGoOn={mayCheckIn && (!row.file.holder || row.file.holder.id === me.id)}
                        onGet={(text) =>
                          text.startsWith('from ') ? goOn(row, Number(text.slice(5))) : getVersion(row, text)
                        }
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {matching && matching.length > most && (
            <p>
              <Button variant="outline-secondary" onClick={() => setMost((n) => n + PAGE)}>
                Show {Math.min(PAGE, matching.length - most)} more
              </Button>{' '}
              <span className="ov-quiet">
                of {(matching.length - most).toLocaleString('en')} that are not shown. What is got or checked in does
                not depend on what is shown.
              </span>
            </p>
          )}
        </>
      )}
      {dialog?.kind === 'check-in' && folder && (
        <CheckInSetDialog
          projectId={project.id}
          rows={dialog.rows}
          all={rows ?? []}
          folder={folder}
          onClose={() => setDialog(undefined)}
          onLanded={(text, bases) => {
            setDialog(undefined);
            setSaid({ problem: false, text });
            void desk.note(bases).then(desk.refresh).then(desk.look);
          }}
        />
      )}
      {dialog?.kind === 'changed' && folder && (
        <ChangedHereDialog
          row={dialog.row}
          target={dialog.target}
          folder={folder}
          onClose={() => setDialog(undefined)}
          onPutBack={() => {
            const { row, target } = dialog;
            setDialog(undefined);
            attempt(async () => {
              await fetchInto([{ row, target }]);
              return `“${row.path}” is here as v${target.number} again.`;
            });
          }}
        />
      )}
      {dialog?.kind === 'edit' && folder && (
        <PracticeEditor
          path={dialog.row.path}
          folder={folder}
          onClose={() => {
            setDialog(undefined);
            void desk.look();
          }}
        />
      )}
    </main>
  );
}

function VersionPicker({
  row,
  disabled,
  mayGoOn,
  onGet,
}: {
  row: Row;
  disabled: boolean;
  mayGoOn: boolean;
  onGet: (text: string) => void;
}): React.ReactNode {
  const newest = row.file?.newest.number ?? 1;
  const numbers = Array.from({ length: Math.min(newest, 200) }, (_, i) => newest - i);
  return (
    <Form.Select
      size="sm"
      className="d-inline-block w-auto"
      disabled={disabled}
      aria-label={`Get another version of ${row.path}`}
      value=""
      onChange={(e) => onGet(e.target.value)}
    >
      <option value="">Get v…</option>
      {numbers.map((n) => (
        <option key={n} value={n}>
          v{n}
        </option>
      ))}
      {mayGoOn && (
        <optgroup label="Check out, and">
          {numbers.slice(1).map((n) => (
            <option key={n} value={`from ${n}`}>
              go on from v{n}
            </option>
          ))}
        </optgroup>
      )}
    </Form.Select>
  );
}
