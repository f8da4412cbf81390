'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api } from '../../contract/operations/index.ts';
import { call, filledIn } from '../api/client.ts';
import { RoleSelect } from './RoleSelect.tsx';
import { told, type Attempt } from '../frame/useAttempt.tsx';

export function AddPerson({ attempt }: { attempt: Attempt }): React.ReactNode {
  const add = async (form: HTMLFormElement): Promise<void> => {
    const body = filledIn(api.people.add.body, new FormData(form));
    await attempt(`${body.name} can now sign in with ${body.email}, and sets a password of their own then.`, () =>
      call(api.people.add, { body }),
    );
    form.reset();
  };
  return (
    <>
      <h2>Add a person</h2>
      <Form
        className="row g-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          void told(add(e.currentTarget));
        }}
      >
        <Form.Group className="col-md-3" controlId="new-name">
          <Form.Label>Name</Form.Label>
          <Form.Control name="name" required maxLength={100} autoComplete="off" />
        </Form.Group>
        <Form.Group className="col-md-3" controlId="new-email">
          <Form.Label>E-mail address</Form.Label>
          <Form.Control name="email" type="email" required autoComplete="off" />
        </Form.Group>
        <Form.Group className="col-md-2" controlId="new-password">
          <Form.Label>First password</Form.Label>
          <Form.Control name="password" type="password" required minLength={10} autoComplete="new-password" />
        </Form.Group>
        <Form.Group className="col-md-3" controlId="new-role">
          <Form.Label>Role</Form.Label>
          <RoleSelect value="editor" />
        </Form.Group>
        <div className="col-md-1">
          <Button type="submit">Add</Button>
        </div>
      </Form>
    </>
  );
}
