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
import { useContents, type ContentsHere, type PlaceRule } from './useContents.tsx';

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
            {placeRules.map((words) => (
              <Rule key={words.rule} contents={contents} words={words} />
            ))}
            {!data.folder && <Pause contents={contents} />}
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

interface RuleWords {
  readonly rule: PlaceRule;
  readonly name: string;
  readonly valueOf: (here: Contents) => boolean | null;
  readonly asAbove: string;
  /** What is said where it holds, and where it does not. */
  readonly yes: string;
  readonly no: string;
}

const placeRules: readonly RuleWords[] = [
  {
    rule: 'noteRequired',
    name: 'Notes at check-in',
    valueOf: ({ noteRule }) => noteRule,
    asAbove: 'Notes: as above',
    no: 'Notes: optional',
    yes: 'Notes: required at every check-in',
  },
  {
    rule: 'savesCount',
    name: 'How people work here',
    valueOf: ({ savesRule }) => savesRule,
    asAbove: 'Work: as above',
    no: 'Work: by check-outs',
    yes: 'Work: saves count at once',
  },
];

interface RuleProps {
  readonly contents: ContentsHere;
  readonly words: RuleWords;
}

/** What holds here and below; folders may say that it is as above. */
function Rule({ contents: { data, setRule }, words }: RuleProps): React.ReactNode {
  return (
    <Form.Select
      size="sm"
      aria-label={words.name}
      value={String(words.valueOf(data))}
      onChange={({ target: { value: chosen } }) =>
        void setRule(words.rule, chosen === 'null' ? null : chosen === 'true')
      }
    >
      {data.folder && <option value="null">{words.asAbove}</option>}
      <option value="false">{words.no}</option>
      <option value="true">{words.yes}</option>
    </Form.Select>
  );
}

/** Minutes that are offered, and what somebody else has set. */
const pauses = [5, 10, 15, 30, 60, 120] as const;

function Pause({ contents: { data, setPause } }: { readonly contents: ContentsHere }): React.ReactNode {
  const { sittingPause: now } = data.project;
  return (
    <Form.Select
      size="sm"
      aria-label="When a sitting is over"
      value={now}
      onChange={({ target: { value } }) => void setPause(Number(value))}
    >
      {[...new Set([...pauses, now])].map((minutes) => (
        <option key={minutes} value={minutes}>
          Sittings: {minutes} minutes’ pause
        </option>
      ))}
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
