'use client';

/** Stands in for the programs with which people change files: small edits, saving, and crashing while saving. */
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { Saved } from '../../contract/saving.ts';
import { sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { readFile, writeFile } from './folder.ts';
import { crashed, tricksFor } from './practice.ts';
import { useSavesAsOneGoes, type SavedFile } from './useSavesAsOneGoes.ts';

export function PracticeEditor({
  path,
  folder,
  file,
  onSaved,
  onClose,
}: {
  path: string;
  folder: FileSystemDirectoryHandle;
  /** The file of the project that it is; undefined for one that Ovrel does not know. */
  file: SavedFile | undefined;
  /** A save has become a version. */
  onSaved: (saved: Saved) => void;
  onClose: () => void;
}): React.ReactNode {
  const [going, setGoing] = useState(false);
  const [pause, setPause] = useState(2000);
  const [title, setTitle] = useState('');
  const saving = useSavesAsOneGoes(file, pause, onSaved);
  const [text, setText] = useState<string>();
  const [saved, setSaved] = useState<string>();
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  useEffect(() => {
    void readFile(folder, path).then(async (file) => {
      const content = (await file?.text()) ?? '';
      setText(content);
      setSaved(content);
    });
  }, [folder, path]);
  if (text === undefined) return null;
  const tricks = tricksFor(path) ?? [];
  const write = async (content: Blob, words: string): Promise<void> => {
    try {
      await writeFile(folder, path, content);
      setSaved(await content.text());
      setSaid({ problem: false, text: words });
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
  };
  const change = (next: string): void => {
    setText(next);
    if (!going) return;
    void write(new Blob([next]), 'Saved as you go.');
    saving.changed(next);
  };
  const often = async (): Promise<void> => {
    // As programs do that save as one goes along.
    for (let i = 1; i <= 5; i++)
      await write(new Blob([`${text}${/\.svg$/i.test(path) ? `<!-- saved ${i} -->` : `${i}\n`}`]), `Saved ${i} times.`);
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="practice-title" size="lg">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="practice-title">
          Practice editor: {path}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>
          This stands in for the program that you would use. It works on the file in the practice folder, and on nothing
          else.
        </p>
        {said && <Said problem={said.problem}>{said.text}</Said>}
        <div className="d-flex gap-2 flex-wrap mb-3">
          {tricks.map((t) => {
            const next = t.apply(text);
            return (
              <Button
                key={t.id}
                size="sm"
                variant="outline-secondary"
                disabled={next === undefined}
                onClick={() => next !== undefined && change(next)}
              >
                {t.says}
              </Button>
            );
          })}
        </div>
        {/\.svg$/i.test(path) ? (
          <img
            className="ov-practice"
            alt={`${path} as it is in the editor`}
            src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`}
          />
        ) : (
          <pre className="ov-practice">{text.slice(0, 4000)}</pre>
        )}
        {file && (
          <div className="d-flex gap-3 flex-wrap align-items-center my-2">
            <Form.Switch
              id="practice-going"
              label="Save to Ovrel as I go"
              checked={going}
              onChange={(e) => setGoing(e.target.checked)}
            />
            {going && (
              <Form.Select
                size="sm"
                style={{ width: 'auto' }}
                aria-label="When a save is made"
                value={pause}
                onChange={(e) => setPause(Number(e.target.value))}
              >
                <option value={2000}>after a pause of 2 seconds</option>
                <option value={10_000}>after a pause of 10 seconds</option>
                <option value={60_000}>after a pause of a minute</option>
              </Form.Select>
            )}
            <Form.Control
              size="sm"
              style={{ width: 220 }}
              aria-label="Title of this version"
              placeholder="Title, such as: for the council"
              maxLength={200}
              value={title}
              onChange={(e) => setTitle(e.target.value)}
            />
            <Button
              size="sm"
              variant="outline-secondary"
              disabled={!title.trim()}
              onClick={() => {
                void write(new Blob([text]), 'Saved.');
                saving.saveNow(text, title.trim());
                setTitle('');
              }}
            >
              Save and title
            </Button>
            {saving.says && (
              <span className="ov-quiet" role="status">
                {saving.says}
              </span>
            )}
          </div>
        )}
        <p className="ov-quiet mb-0">
          {text === saved ? 'Everything is saved.' : 'There are changes that are not saved.'}
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button
          variant="outline-secondary"
          onClick={() =>
            void write(
              new Blob([crashed(new TextEncoder().encode(text)) as Uint8Array<ArrayBuffer>]),
              'The program crashed while saving: only a part of the file is there.',
            )
          }
        >
          Crash while saving
        </Button>
        <Button variant="outline-secondary" onClick={() => void often()}>
          Save over and over
        </Button>
        <Button variant="outline-secondary" onClick={onClose}>
          Close{text === saved ? '' : ' without saving'}
        </Button>
        <Button onClick={() => void write(new Blob([text]), 'Saved.')}>Save</Button>
      </Modal.Footer>
    </Modal>
  );
}
