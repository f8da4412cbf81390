'use client';

import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Here } from '../../contract/access.ts';
import type { Contents } from '../../contract/api.ts';
import { sayLimits } from '../access/limits.ts';
import { useKeys } from '../frame/keys.tsx';
import { Said } from '../frame/Said.tsx';
import { ContentsHead, isFilled } from './ContentsHead.tsx';
import { FileRow, FolderRow } from './ContentsRows.tsx';
import { useContents, type ContentsHere } from './useContents.tsx';

interface Props {
  readonly initial: Contents;
  readonly here: Here;
}

export function ContentsPage({ initial, here }: Props): React.ReactNode {
  const may = (right: Here['rights'][number]): boolean => here.rights.includes(right);
  const mayCheckIn = may('check out');
  const contents = useContents(initial);
  const { data, chosen } = contents;
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const chooseFiles = (): void => chooser.current?.click();
  const moveChosen = (): void => {
    if (chosen.size > 0) contents.move([...chosen.values()]);
  };
  const forEditors = [
    { key: 'u', says: 'Add files', run: chooseFiles },
    { key: 'f', says: 'New folder', run: contents.makeFolder },
    { key: 'm', says: 'Move what is chosen', run: moveChosen },
  ];
  useKeys([{ key: 'd', says: 'Download all', run: contents.archive }, ...(mayCheckIn ? forEditors : [])]);
  const drop = (event: React.DragEvent): void => {
    event.preventDefault();
    setOver(false);
    if (mayCheckIn && event.dataTransfer.files.length) contents.add([...event.dataTransfer.files]);
  };
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
        <ContentsHead contents={contents} may={may} onChooseFiles={chooseFiles} />
        <input
          ref={chooser}
          type="file"
          multiple
          hidden
          aria-label="Files to add"
          onChange={(e) => {
            const list = [...(e.target.files ?? [])];
            e.target.value = '';
            if (list.length) contents.add(list);
          }}
        />
        {!mayCheckIn && <p className="ov-quiet">{sayLimits(here, sayOpen(may('see')))}</p>}
        {contents.sending}
        {contents.outcomes.map((o, i) => (
          <Said key={i} problem={o.problem}>
            {o.text}
          </Said>
        ))}
        {may('manage') && (
          <div className="ov-filters">
            <NoteRule contents={contents} />
            <WayRule contents={contents} />
          </div>
        )}
        {isFilled(data) ? (
          <ContentsTable contents={contents} mayOrganise={mayCheckIn} />
        ) : (
          <NothingHere mayCheckIn={mayCheckIn} onChooseFiles={chooseFiles} />
        )}
      </main>
      {contents.dialog}
    </div>
  );
}

const sayOpen = (open: boolean): string =>
  open ? 'You can look here, but not change anything' : 'What lies directly in here is closed to you';

const ruleOf = (rule: boolean | null): string => {
  if (rule === null) return 'above';
  return rule ? 'required' : 'optional';
};

function NoteRule({ contents: { data, ruleNotes } }: { contents: ContentsHere }): React.ReactNode {
  return (
    <Form.Select
      size="sm"
      aria-label="Notes at check-in"
      value={ruleOf(data.noteRule)}
      onChange={(e) => void ruleNotes(e.target.value)}
    >
      {data.folder && <option value="above">Notes: as above</option>}
      <option value="optional">Notes: optional</option>
      <option value="required">Notes: required at every check-in</option>
    </Form.Select>
  );
}

const wayOf = (counts: boolean | null): string => {
  if (counts === null) return 'above';
  return counts ? 'saves' : 'checkouts';
};

function WayRule({ contents: { data, ruleSaves } }: { contents: ContentsHere }): React.ReactNode {
  return (
    <Form.Select
      size="sm"
      aria-label="How people work here"
      value={wayOf(data.savesRule)}
      onChange={(e) => void ruleSaves(e.target.value)}
    >
      {data.folder && <option value="above">Work: as above</option>}
      <option value="checkouts">Work: by check-outs</option>
      <option value="saves">Work: saves count at once</option>
    </Form.Select>
  );
}

function NothingHere({
  mayCheckIn,
  onChooseFiles,
}: {
  mayCheckIn: boolean;
  onChooseFiles: () => void;
}): React.ReactNode {
  return (
    <div className="ov-empty">
      <p>
        Nothing is in here yet.{' '}
        {mayCheckIn
          ? 'Drop files anywhere on this page, or choose them. Any kind of file is kept; drawings and text are also compared part by part.'
          : ''}
      </p>
      {mayCheckIn && <Button onClick={onChooseFiles}>Add files</Button>}
    </div>
  );
}

function ContentsTable({ contents, mayOrganise }: { contents: ContentsHere; mayOrganise: boolean }): React.ReactNode {
  const { data, chosen, toggle, rename, move, remove } = contents;
  const shared = { mayOrganise, onToggle: toggle };
  return (
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
            {...shared}
            folder={f}
            chosen={chosen.has(f.id)}
            onRename={() => rename({ kind: 'folder', id: f.id, name: f.name })}
            onMove={(item) => move([item])}
          />
        ))}
        {data.files.map((f) => (
          <FileRow
            key={f.id}
            {...shared}
            file={f}
            chosen={chosen.has(f.id)}
            onRename={() => rename({ kind: 'file', id: f.id, name: f.name })}
            onMove={(item) => move([item])}
            onDelete={() => remove(f)}
          />
        ))}
      </tbody>
    </table>
  );
}
