'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { Member } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { call, filledIn, sentenceOf } from '../api/client.ts';
import { DialogActs } from '../frame/DialogActs.tsx';
import { Said } from '../frame/Said.tsx';
import type { Attempt } from '../frame/useAttempt.tsx';
import { RoleSelect } from './RoleSelect.tsx';

interface Props {
  readonly person: Member;
  readonly attempt: Attempt;
  readonly onClose: () => void;
}

export function ChangePersonDialog({ person, attempt, onClose }: Props): React.ReactNode {
  const [problem, setProblem] = useState<string>();
  const save = async (form: HTMLFormElement): Promise<void> => {
    const body = filledIn(api.people.change.body, new FormData(form));
    try {
      await attempt(`${body.name ?? person.name} was changed.`, () =>
        call(api.people.change, { personId: person.id, body }),
      );
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="person-title">
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          void save(e.currentTarget);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="person-title">
            {person.name}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {problem && <Said problem>{problem}</Said>}
          <Form.Group controlId="person-name" className="mb-3">
            <Form.Label>Name</Form.Label>
            <Form.Control
              name="name"
              required
              maxLength={100}
              defaultValue={person.name}
              autoComplete="off"
              autoFocus
            />
          </Form.Group>
          <Form.Group controlId="person-role">
            <Form.Label>Role</Form.Label>
            <RoleSelect value={person.role} />
          </Form.Group>
        </Modal.Body>
        <DialogActs onCancel={onClose}>Change</DialogActs>
      </Form>
    </Modal>
  );
}
