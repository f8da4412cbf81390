'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { call, sentenceOf } from '../api/client.ts';
import { fieldOf } from '../frame/form.ts';
import { Said } from '../frame/Said.tsx';
import { folderPaths } from './folders.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { DialogActs } from '../frame/DialogActs.tsx';

export interface Movable {
  readonly kind: 'file' | 'folder';
  readonly id: string;
  readonly name: string;
}

interface Props {
  readonly projectId: string;
  readonly items: readonly Movable[];
  readonly onClose: (moved: boolean) => void;
}

/** Moves files and folders to another folder of the project. */
export function MoveDialog({ projectId, items, onClose }: Props): React.ReactNode {
  const { data } = useAnswer(api.projects.folders, { projectId });
  const [problem, setProblem] = useState<string>();
  const moving = new Set(items.filter((i) => i.kind === 'folder').map((i) => i.id));
  const targets = folderPaths(data ?? []).filter((f) => !f.trail.some((id) => moving.has(id)));
  const move = async (target: string | null): Promise<void> => {
    let done = 0;
    try {
      for (const item of items) {
        await (item.kind === 'file'
          ? call(api.files.change, { fileId: item.id, body: { folderId: target } })
          : call(api.projects.changeFolder, { folderId: item.id, body: { parentId: target } }));
        done++;
      }
      onClose(true);
    } catch (error) {
      setProblem(`${done ? `${done} of ${items.length} moved. ` : ''}${sentenceOf(error)}`);
    }
  };
  return (
    <Modal show onHide={() => onClose(false)} aria-labelledby="move-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void move(fieldOf(e.currentTarget, 'target') || null);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="move-title">
            {items.length === 1 ? `Move “${items[0]?.name ?? ''}”` : `Move ${items.length} items`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="target">
            <Form.Label>To</Form.Label>
            <Form.Select name="target">
              <option value="">Top of the project</option>
              {targets.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.path}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Text>Versions and addresses stay as they are.</Form.Text>
        </Modal.Body>
        <DialogActs onCancel={() => onClose(false)}>Move</DialogActs>
      </Form>
    </Modal>
  );
}
