'use client';

/** Chooses what to compare with: a version of another line of this file, or of any other file. */
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { FoundFiles } from '../../contract/api.ts';
import { sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { marksOf } from '../rail/layout.ts';
import { sayMoment } from '../words.ts';
import { useFileActs } from './state/acts.tsx';
import { useShown } from './state/shown.tsx';
import { railOf } from './versions.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

interface Chosen {
  readonly fileId: string;
  readonly name: string;
  /** Id of the line, or its position. */
  readonly line: string | number;
}

export function CompareWithDialog(): React.ReactNode {
  const { file, columns, b: version, move } = useShown();
  const { close } = useFileActs();
  const branches = columns.lines.filter((l) => l.id !== columns.line);
  const [chosen, setChosen] = useState<Chosen>();
  /** Whose versions are there to choose from. */
  const [listed, setListed] = useState<Chosen>();
  const act = (other: string): void => {
    close();
    move({ b: version.id, other });
  };
  return (
    <Modal show onHide={close} aria-labelledby="with-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          act(fieldOf(e.currentTarget, 'version'));
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="with-title">
            Compare v{version.number} of {file.name} with …
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {chosen ? (
            <>
              <p>
                <strong>{chosen.name}</strong>{' '}
                <Button variant="link" className="p-0 align-baseline" onClick={() => setChosen(undefined)}>
                  Choose another
                </Button>
              </p>
              <VersionChoice
                key={`${chosen.fileId} ${chosen.line}`}
                chosen={chosen}
                onListed={() => setListed(chosen)}
              />
            </>
          ) : (
            <>
              {branches.length > 0 && (
                <ul className="ov-choices" aria-label="Other lines of this file">
                  {branches.map((l) => (
                    <li key={l.id}>
                      <button
                        type="button"
                        onClick={() => setChosen({ fileId: file.id, name: `${file.name}, ${l.name}`, line: l.id })}
                      >
                        {l.from === null
                          ? `${l.name} of this file`
                          : `Branch ${l.name} of this file, from v${l.from.number}`}
                      </button>
                    </li>
                  ))}
                </ul>
              )}
              <FileChoice without={file.id} onChosen={(f) => setChosen({ fileId: f.id, name: f.name, line: 0 })} />
            </>
          )}
        </Modal.Body>
        <DialogActs onCancel={close} disabled={!chosen || listed !== chosen}>
          Compare
        </DialogActs>
      </Form>
    </Modal>
  );
}

function FileChoice({
  without,
  onChosen,
}: {
  without: string;
  onChosen: (file: FoundFiles[number]) => void;
}): React.ReactNode {
  const [typed, setTyped] = useState('');
  const [words, setWords] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setWords(typed.trim()), 150);
    return () => clearTimeout(timer);
  }, [typed]);
  const { data } = useAnswer(api.projects.find, words ? { query: { q: words } } : null, { keepPreviousData: true });
  const files = words ? data?.filter((f) => f.id !== without) : undefined;
  return (
    <>
      <Form.Group controlId="with-file">
        <Form.Label>Part of the other file&rsquo;s name</Form.Label>
        <Form.Control
          type="search"
          autoFocus
          autoComplete="off"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </Form.Group>
      {files && files.length > 0 && (
        <ul className="ov-choices" aria-label="Files">
          {files.map((f) => (
            <li key={f.id}>
              <button type="button" onClick={() => onChosen(f)}>
                <span className="ov-cut">{f.name}</span>
                <span className="ov-quiet">
                  {f.project}, v{f.number}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {files && !files.length && <p className="ov-quiet mt-2">No other file is called that.</p>}
    </>
  );
}

function VersionChoice({ chosen, onListed }: { chosen: Chosen; onListed: () => void }): React.ReactNode {
  const { data, error } = useAnswer(api.files.rail, railOf(chosen.fileId, chosen.line));
  const told = useRef(false);
  useEffect(() => {
    if (!data || told.current) return;
    told.current = true;
    onListed();
  });
  if (error) return <Said problem>{sentenceOf(error)}</Said>;
  if (!data) return <p role="status">Looking for its versions …</p>;
  return (
    <Form.Group controlId="with-version">
      <Form.Label>Version</Form.Label>
      <Form.Select name="version">
        {[...marksOf(data)].reverse().map((m) => (
          <option
            key={m.id}
            value={m.id}
          >{`v${m.number}${m.title ? ` “${m.title}”` : ''}, ${m.by}, ${sayMoment(m.at)}`}</option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}
