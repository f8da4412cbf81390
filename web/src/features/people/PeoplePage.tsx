'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Person } from '../../contract/api.ts';
import { call, filledIn, sentenceOf } from '../api/client.ts';
import { Said } from '../frame/Said.tsx';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

export function PeoplePage({ initial }: { initial: readonly Person[] }): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.people.list, {}, { fallbackData: initial });
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const add = async (form: HTMLFormElement): Promise<void> => {
    try {
      const made = await call(api.people.add, { body: filledIn(api.people.add.body, new FormData(form)) });
      setSaid({ problem: false, text: `${made.name} can now sign in with ${made.email}.` });
      form.reset();
      await mutate();
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
    }
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>People</h1>
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <table className="ov-table mb-4">
        <thead>
          <tr>
            <th>Name</th>
            <th>Signs in as</th>
            <th>Role</th>
          </tr>
        </thead>
        <tbody>
          {data.map((p) => (
            <tr key={p.id}>
              <td>{p.name}</td>
              <td>{p.email}</td>
              <td>{p.role}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2>Add a person</h2>
      <Form
        className="row g-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          void add(e.currentTarget);
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
        <Form.Group className="col-md-3" controlId="new-password">
          <Form.Label>First password</Form.Label>
          <Form.Control name="password" type="password" required minLength={10} autoComplete="new-password" />
        </Form.Group>
        <Form.Group className="col-md-2" controlId="new-role">
          <Form.Label>Role</Form.Label>
          <Form.Select name="role" defaultValue="editor">
            <option value="guest">guest: sees what a project opens to them</option>
            <option value="reader">reader: looks and compares</option>
            <option value="editor">editor: also checks in and organises</option>
            <option value="lead">lead: also makes projects</option>
            <option value="administrator">administrator: also manages people</option>
          </Form.Select>
        </Form.Group>
        <div className="col-md-1">
          <Button type="submit">Add</Button>
        </div>
      </Form>
    </main>
  );
}
