'use client';

import { useEffect, useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { NoteField } from '../files/NoteField.tsx';
import { Said } from '../frame/Said.tsx';
import { readFile } from './folder.ts';
import type { Base } from './memory.ts';
import { compareHere } from './orders.ts';
import { BelongsTogether } from './BelongsTogether.tsx';
import { baseName } from './paths.ts';
import type { Row } from './useDesk.ts';
import { useSetCheckIn } from './useSetCheckIn.ts';
import { useTree } from './useTree.ts';
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
  const { share, problem, send: sendSet, cancel } = useSetCheckIn(projectId, folder, onLanded);
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
  const busy = share !== undefined;
  const send = (): void =>
    sendSet(
      chosen.map((row) => ({ row, as: choices.get(row.path) === 'perhaps' ? row.perhaps : row.file })),
      { note, keep },
    );
  return (
    <Modal show onHide={() => !busy && onClose()} backdrop="static" size="lg" aria-labelledby="set-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          send();
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
          <BelongsTogether
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
          onCancel={() => (busy ? cancel() : onClose())}
          disabled={busy || !chosen.length}
          cancel={busy ? 'Cancel the upload' : 'Cancel'}
        >
          Check in {chosen.length === 1 ? 'one file' : `${chosen.length} files`}
        </DialogActs>
      </Form>
    </Modal>
  );
}
