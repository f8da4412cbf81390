'use client';

import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { ComparedOnDesk } from '../../workers/desk.ts';
import { sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { readFile } from './folder.ts';
import { compareHere } from './orders.ts';
import { baseName } from './paths.ts';
import type { Row } from './useDesk.ts';

interface Props {
  readonly row: Row;
  /** The version that would take its place. */
  readonly target: { readonly id: string; readonly number: number };
  readonly folder: FileSystemDirectoryHandle;
  readonly onClose: () => void;
  readonly onPutBack: () => void;
}

/** What was changed here, and the question whether a version shall take its place. */
export function ChangedHereDialog({ row, target, folder, onClose, onPutBack }: Props): React.ReactNode {
  const [compared, setCompared] = useState<ComparedOnDesk>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let stale = false;
    const work = async (): Promise<void> => {
      const here = await readFile(folder, row.path);
      if (here && row.file) {
        const result = await compareHere(baseName(row.file.path), target.id, here);
        if (!stale) setCompared(result);
      }
    };
    void work().catch((error: unknown) => !stale && setProblem(sentenceOf(error)));
    return () => {
      stale = true;
    };
  }, [folder, row, target.id]);
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="changed-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="changed-title">
          {row.path}: v{target.number} against what is here
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {problem && <Said problem>{problem}</Said>}
        {!compared && !problem && <p role="status">Comparing …</p>}
        {compared && (
          <>
            <p>
              <strong>{compared.summary}</strong>
            </p>
            <ul className="ov-here">
              {compared.changes.map((c, i) => (
                <li key={i}>{c}</li>
              ))}
            </ul>
          </>
        )}
        <p className="ov-quiet mb-0">
          Putting v{target.number} here replaces the file in your folder. What is here and was not checked in is gone
          then.
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onPutBack}>
          Put v{target.number} here instead
        </Button>
        <Button onClick={onClose}>Keep what is here</Button>
      </Modal.Footer>
    </Modal>
  );
}
