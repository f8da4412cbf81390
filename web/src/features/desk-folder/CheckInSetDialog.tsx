'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { Folder } from '../../contract/api.ts';
import type { DeskFile, Planned, SetResult } from '../../contract/desk.ts';
import { call, sentenceOf, upload, type Upload } from '../api/client.ts';
import { NoteField } from '../files/NoteField.tsx';
import { Said } from '../frame/Said.tsx';
import { readFile } from './folder.ts';
import type { Base } from './memory.ts';
import { compareHere } from './orders.ts';
import type { Row } from './useDesk.ts';
import { useTree, type Branch } from './useTree.ts';
import { api } from '../../contract/operations/index.ts';
import { Progress } from '../frame/Progress.tsx';
import { DialogActs } from '../frame/DialogActs.tsx';

interface Props {
  readonly projectId: string;
  readonly rows: readonly Row[];
  /** Every row of the desk: what is checked in may need any of them. */
  readonly all: readonly Row[];
  readonly folder: FileSystemDirectoryHandle;
  readonly onClose: () => void;
  readonly onLanded: (sentence: string, bases: Record<string, Base>) => void;
}

/** Where an unknown file goes: it becomes a new file, or a new version of the one that it resembles. */
type Choice = 'no' | 'yes' | 'new' | 'perhaps';

/** Folders of the project by their paths, to find where a new file belongs. */
function folderIdOf(folders: readonly Folder[], path: string): string | null {
  let parent: string | null = null;
  for (const name of path.split('/').slice(0, -1)) {
    const found: Folder | undefined = folders.find(
      (f) => f.parentId === parent && f.name.toLowerCase() === name.toLowerCase(),
    );
    if (!found) throw new Error(`The project has no folder for “${path}”. Make the folder “${name}” there first.`);
    parent = found.id;
  }
  return parent;
}

const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

export function CheckInSetDialog({
  projectId,
  rows: given,
  all: givenAll,
  folder,
  onClose,
  onLanded,
}: Props): React.ReactNode {
  // As they were when this was opened: a look at the folder meanwhile does not change what is asked.
  const [rows] = useState(given);
  const [all] = useState(givenAll);
  const tree = useTree(folder, rows, all);
  const [choices, setChoices] = useState<ReadonlyMap<string, Choice>>(
    new Map(rows.map((r) => [r.path, r.status === 'changed here' ? 'yes' : 'no'])),
  );
  const [note, setNote] = useState('');
  const [proposal, setProposal] = useState('');
  const [keep, setKeep] = useState(false);
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const sending = useRef<Upload<SetResult>>(undefined);
  useEffect(() => {
    let stale = false;
    const work = async (): Promise<void> => {
      const said: string[] = [];
      for (const row of rows.filter((r) => r.status === 'changed here' && r.file)) {
        const here = await readFile(folder, row.path);
        if (stale || !here || !row.file) return;
        said.push(
          `${baseName(row.path)}: ${(await compareHere(baseName(row.file.path), row.file.newest.id, here)).summary}`,
        );
        setProposal(said.join('\n'));
      }
    };
    void work().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [rows, folder]);
  const chosen = rows.filter((r) => (choices.get(r.path) ?? 'no') !== 'no');
  const choose = (path: string, choice: Choice): void => setChoices((before) => new Map(before).set(path, choice));
  const send = async (): Promise<void> => {
    setProblem(undefined);
    setShare(0);
    try {
      const fresh = chosen.some((r) => choices.get(r.path) === 'new')
        ? await call(api.projects.folders, { projectId })
        : [];
      const plan: Planned[] = [];
      const files: File[] = [];
      for (const row of chosen) {
        const target: DeskFile | undefined = choices.get(row.path) === 'perhaps' ? row.perhaps : row.file;
        const file = await readFile(folder, row.path);
        if (!file) throw new Error(`“${row.path}” is not in the folder any more. Nothing was checked in.`);
        plan.push(
          target
            ? { fileId: target.fileId, base: target.newest.id, keep }
            : { name: baseName(row.path), folderId: folderIdOf(fresh, row.path) },
        );
        files.push(file);
      }
      sending.current = upload(
        api.sets.checkIn,
        { projectId, fields: { note, plan: JSON.stringify(plan) }, files },
        setShare,
      );
      const result = await sending.current.done;
      const now = await call(api.desk.files, { projectId });
      const bases: Record<string, Base> = {};
      for (const row of chosen) {
        const target = choices.get(row.path) === 'perhaps' ? row.perhaps?.fileId : row.file?.fileId;
        const file = now.find((f) => (target ? f.fileId === target : f.path === row.path));
        if (file && row.here?.sha256 === file.newest.sha256)
          bases[row.path] = {
            fileId: file.fileId,
            versionId: file.newest.id,
            number: file.newest.number,
            sha256: file.newest.sha256,
          };
      }
      onLanded([result.sentence, ...result.hints].join(' '), bases);
    } catch (error) {
      setShare(undefined);
      setProblem(`${sentenceOf(error)} If a file changed while it was sent, look again and check in once more.`);
    }
  };
  const busy = share !== undefined;
  return (
    <Modal show onHide={() => !busy && onClose()} backdrop="static" size="lg" aria-labelledby="set-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void send();
        }}
      >
        <Modal.Header>
          <Modal.Title as="h2" id="set-title">
            Check in together
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <table className="ov-table mb-3" aria-label="Files to check in">
            <tbody>
              {rows.map((r) => (
                <tr key={r.path}>
                  <td>{r.path}</td>
                  <td>
                    {r.status === 'changed here' && (
                      <Form.Check
                        id={`take-${r.path}`}
                        label={`as v${(r.file?.newest.number ?? 0) + 1}`}
                        aria-label={`Check in ${r.path}`}
                        checked={choices.get(r.path) === 'yes'}
                        disabled={busy}
                        onChange={(e) => choose(r.path, e.target.checked ? 'yes' : 'no')}
                      />
                    )}
                    {r.status === 'changed on both' && (
                      <span className="ov-warn">
                        v{r.file?.newest.number} is newer on the server: see what changed first, then get it, or check
                        this in on its page as a branch
                      </span>
                    )}
                    {r.status === 'not in Ovrel' && (
                      <Form.Select
                        size="sm"
                        aria-label={`What ${r.path} is`}
                        value={choices.get(r.path)}
                        disabled={busy}
                        onChange={(e) => choose(r.path, e.target.value as Choice)}
                      >
                        <option value="no">leave it out</option>
                        <option value="new">a new file</option>
                        {r.perhaps && (
                          <option value="perhaps">
                            a new version of {r.perhaps.path}
                            {r.likeness === undefined ? '' : ` (${Math.round(r.likeness * 100)} % alike)`}
                          </option>
                        )}
                      </Form.Select>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Tree
            branches={tree.filter((b) => (choices.get(b.path) ?? 'no') !== 'no')}
            chosen={new Set(chosen.map((r) => r.path))}
            busy={busy}
            onTake={(row) => choose(row.path, row.status === 'changed here' ? 'yes' : 'new')}
          />
          <NoteField id="set-note" note={note} proposal={proposal} busy={busy} onNote={setNote} />
          <Form.Check
            className="mt-2"
            id="set-keep"
            label="Keep checked out what I hold"
            checked={keep}
            disabled={busy}
            onChange={(e) => setKeep(e.target.checked)}
          />
          {busy && (
            <div className="mt-3" role="status">
              <Progress share={share} name="Sent" />
              <p className="mb-0 mt-1">
                {share < 1 ? `Sending, ${Math.round(share * 100)} %` : 'All sent; being stored …'}
              </p>
            </div>
          )}
        </Modal.Body>
        <DialogActs
          onCancel={() => (busy ? sending.current?.cancel() : onClose())}
          disabled={busy || !chosen.length}
          cancel={busy ? 'Cancel the upload' : 'Cancel'}
        >
          Check in {chosen.length === 1 ? 'one file' : `${chosen.length} files`}
        </DialogActs>
      </Form>
    </Modal>
  );
}

/** What was chosen and belongs together: what would be forgotten comes first. */
function Tree({
  branches,
  chosen,
  busy,
  onTake,
}: {
  branches: readonly Branch[];
  chosen: ReadonlySet<string>;
  busy: boolean;
  onTake: (row: Row) => void;
}): React.ReactNode {
  const left = branches.flatMap((b) =>
    b.needs.flatMap(({ row }) =>
      row && !chosen.has(row.path) && (row.status === 'changed here' || row.status === 'not in Ovrel')
        ? [{ by: b.path, row }]
        : [],
    ),
  );
  const lost = branches.flatMap((b) =>
    b.needs.flatMap((n) => (n.found === 'missing' ? [{ by: b.path, target: n.target }] : [])),
  );
  const sound = branches.flatMap((b) => {
    const needs = b.needs.flatMap(({ row }) =>
      row ? [`${baseName(row.path)} (${chosen.has(row.path) ? 'goes along' : row.status})`] : [],
    );
    return needs.length || b.neededBy.length ? [{ path: b.path, needs, neededBy: b.neededBy }] : [];
  });
  if (!left.length && !lost.length && !sound.length) return null;
  return (
    <section className="ov-along mb-3" aria-label="What belongs together">
      <ul>
        {left.map(({ by, row }, i) => (
          <li key={`l${i}`} className="ov-warn">
            <i className="bi bi-exclamation-triangle" aria-hidden="true" /> {baseName(by)} needs {baseName(row.path)},
            which is {row.status === 'not in Ovrel' ? 'not in Ovrel yet' : 'changed here'} and left out.{' '}
            <Button variant="link" className="p-0 align-baseline" disabled={busy} onClick={() => onTake(row)}>
              Take {baseName(row.path)} along
            </Button>
          </li>
        ))}
        {lost.map(({ by, target }, i) => (
          <li key={`m${i}`} className="ov-warn">
            <i className="bi bi-exclamation-triangle" aria-hidden="true" /> {baseName(by)} needs{' '}
            <span className="ov-mono">{target}</span>, which is neither here nor in the project.
          </li>
        ))}
        {sound.slice(0, 20).map(({ path, needs, neededBy }) => (
          <li key={path} className="ov-quiet">
            {baseName(path)}
            {needs.length > 0 &&
              `: needs ${needs.slice(0, 6).join(', ')}${needs.length > 6 ? ` and ${needs.length - 6} more` : ''}`}
            {neededBy.length > 0 &&
              `${needs.length ? ';' : ':'} needed by ${neededBy
                .slice(0, 6)
                .map((u) => `${baseName(u.path)}${u.holder ? ` (${u.holder} holds it)` : ''}`)
                .join(', ')}${neededBy.length > 6 ? ` and ${neededBy.length - 6} more` : ''}`}
          </li>
        ))}
      </ul>
    </section>
  );
}
